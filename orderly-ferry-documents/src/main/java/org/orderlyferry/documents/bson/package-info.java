/** Values of documents, as BSON has them: as value text, as JSON that keeps their types, and back. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.documents.bson;

import org.apiguardian.api.API;
