/** Systems that have no package of their own here: all that is known of them is what their JDBC driver says. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.driver;

import org.apiguardian.api.API;
