/** Finds records that would break a key or a reference of the tables that they come to, before any of them moves. */
package org.orderlyferry.integrity;
