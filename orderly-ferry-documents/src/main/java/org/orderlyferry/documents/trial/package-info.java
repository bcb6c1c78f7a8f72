/** Loads into stores of documents that are only tried. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.documents.trial;

import org.apiguardian.api.API;
