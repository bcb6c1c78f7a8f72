/** How running work is heard of and stopped. */
package org.orderlyferry.progress;
