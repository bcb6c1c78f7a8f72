/** Delimited text of any dialect: other delimiters, quotes, escapes and trimming than those of RFC 4180. */
package org.orderlyferry.format.delimited;
