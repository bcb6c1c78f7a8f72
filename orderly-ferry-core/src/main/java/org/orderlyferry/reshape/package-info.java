/** Other columns, names, types and fewer records on the way from a place, without a change to the place. */
package org.orderlyferry.reshape;
