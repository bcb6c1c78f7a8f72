/** How records travel: batches of value text in bytes, their readers and writers. */
@NullMarked
package org.orderlyferry.record;

import org.jspecify.annotations.NullMarked;
