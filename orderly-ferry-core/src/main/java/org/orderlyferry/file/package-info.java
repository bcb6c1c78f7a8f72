/** Single files, and folders of them, as places to read from and to write to. */
package org.orderlyferry.file;
