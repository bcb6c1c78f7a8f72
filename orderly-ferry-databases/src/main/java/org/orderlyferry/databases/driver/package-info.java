/** Systems that have no package of their own here: all that is known of them is what their JDBC driver says. */
package org.orderlyferry.databases.driver;
