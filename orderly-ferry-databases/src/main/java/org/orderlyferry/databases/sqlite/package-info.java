/** SQLite: its types, its catalogue, its definitions. */
package org.orderlyferry.databases.sqlite;
