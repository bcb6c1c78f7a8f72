/** SQLite: its types, its catalogue, its definitions. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.sqlite;

import org.apiguardian.api.API;
