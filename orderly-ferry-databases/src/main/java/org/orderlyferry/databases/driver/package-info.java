/**
 * Systems that are connected to by a JDBC driver which doesn't come along. What begins with Driver goes by what that driver
 * says, and with Known by what a {@link org.orderlyferry.databases.dialect.ConnectedSql} knows of its system beyond that.
 */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.driver;

import org.apiguardian.api.API;
