/** Definitions as descriptions of W3C CSV on the Web, beside a single file or in an export set. */
package org.orderlyferry.csvw;
