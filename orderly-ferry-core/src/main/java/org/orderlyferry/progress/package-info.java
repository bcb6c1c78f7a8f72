/** How running work is heard of and stopped. */
@NullMarked
package org.orderlyferry.progress;

import org.jspecify.annotations.NullMarked;
