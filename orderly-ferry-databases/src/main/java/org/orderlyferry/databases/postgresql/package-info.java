/** PostgreSQL: its types, its catalogue, its definitions. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.postgresql;

import org.apiguardian.api.API;
