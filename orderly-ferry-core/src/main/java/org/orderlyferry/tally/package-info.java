/** What was counted of a table at one point: rows, a digest of all rows, and one of each column. */
@NullMarked
package org.orderlyferry.tally;

import org.jspecify.annotations.NullMarked;
