/** The command {@code ferry demo}. */
package org.orderlyferry.examples.demo;
