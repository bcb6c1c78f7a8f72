/** The command line: it asks the core for everything, and only shows. */
package org.orderlyferry.cli;
