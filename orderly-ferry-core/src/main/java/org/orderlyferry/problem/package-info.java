/** What can go wrong, as a small closed family: the facts as fields, the message made in one place. */
@NullMarked
package org.orderlyferry.problem;

import org.jspecify.annotations.NullMarked;
