/** What a format of export files is; each format stands in a package of its own below. */
package org.orderlyferry.format;
