/** How tables get into a database so that they are whole or not there at all. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.loading;

import org.apiguardian.api.API;
