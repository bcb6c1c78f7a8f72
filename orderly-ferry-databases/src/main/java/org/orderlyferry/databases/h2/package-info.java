/** H2: its types, its catalogue, its definitions. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.h2;

import org.apiguardian.api.API;
