/** Other columns, names, types and fewer records on the way from a place, without a change to the place. */
@NullMarked
package org.orderlyferry.reshape;

import org.jspecify.annotations.NullMarked;
