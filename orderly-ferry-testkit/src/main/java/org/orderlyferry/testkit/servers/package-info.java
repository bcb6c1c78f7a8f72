/** Database servers that start in seconds, with nothing to install: for examples, tests and measurements. */
package org.orderlyferry.testkit.servers;
