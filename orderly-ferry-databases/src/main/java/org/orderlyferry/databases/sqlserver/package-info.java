/** SQL Server: its types, its definitions, its scripts. Nobody has run these against a server of it. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.sqlserver;

import org.apiguardian.api.API;
