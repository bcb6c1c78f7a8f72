/** Made-up records of work. */
package org.orderlyferry.testkit.records;
