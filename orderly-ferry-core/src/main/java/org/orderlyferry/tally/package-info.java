/** What was counted of a table at one point: rows, a digest of all rows, and one of each column. */
package org.orderlyferry.tally;
