/** Definitions as descriptions of W3C CSV on the Web, beside a single file or in an export set. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.csvw;

import org.apiguardian.api.API;
