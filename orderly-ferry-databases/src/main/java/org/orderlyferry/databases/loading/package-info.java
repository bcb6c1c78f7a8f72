/** How tables get into a database so that they are whole or not there at all. */
package org.orderlyferry.databases.loading;
