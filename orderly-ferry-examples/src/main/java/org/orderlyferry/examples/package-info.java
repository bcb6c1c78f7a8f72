/** Short programs that show how the library is used. */
package org.orderlyferry.examples;
