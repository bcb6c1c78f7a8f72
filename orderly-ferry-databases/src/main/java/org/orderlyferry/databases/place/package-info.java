/** Databases as places. */
package org.orderlyferry.databases.place;
