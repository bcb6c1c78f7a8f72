/** The journal of runs: where each is kept, what has been done of it, and who works on it. */
@NullMarked
package org.orderlyferry.ledger;

import org.jspecify.annotations.NullMarked;
