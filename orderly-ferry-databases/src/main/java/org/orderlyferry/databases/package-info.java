/** Databases as places, by way of JDBC; what differs between systems stands in a dialect's package. */
package org.orderlyferry.databases;
