/** PostgreSQL: its types, its catalogue, its definitions. */
package org.orderlyferry.databases.postgresql;
