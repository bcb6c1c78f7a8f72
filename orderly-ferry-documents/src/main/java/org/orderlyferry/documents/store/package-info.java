/** A store of documents that is reached over HTTP with a key file; docs/store.md has its interface. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.documents.store;

import org.apiguardian.api.API;
