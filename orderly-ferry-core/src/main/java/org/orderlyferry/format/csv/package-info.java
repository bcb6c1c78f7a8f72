/** Delimited text by RFC 4180, read and written by bytes; its dialects are those of W3C CSV on the Web. */
package org.orderlyferry.format.csv;
