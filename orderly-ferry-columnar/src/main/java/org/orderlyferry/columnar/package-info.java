/** What the module's kinds of files have in common. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.columnar;

import org.apiguardian.api.API;
