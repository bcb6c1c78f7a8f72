/** Databases of documents that speak MongoDB's wire protocol, as places, by the system's own driver. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.documents.mongodb;

import org.apiguardian.api.API;
