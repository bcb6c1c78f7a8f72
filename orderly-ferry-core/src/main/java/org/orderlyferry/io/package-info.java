/** Bytes and files: those that appear whole or not at all, bounded expansion, and decoding that replaces nothing. */
package org.orderlyferry.io;
