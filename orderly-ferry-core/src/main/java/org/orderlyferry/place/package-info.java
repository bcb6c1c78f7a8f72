/** What every place offers in which records live: to list, define, count and read tables, and to take new ones. */
@NullMarked
package org.orderlyferry.place;

import org.jspecify.annotations.NullMarked;
