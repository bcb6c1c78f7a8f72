/** Definitions and values that nobody thought of, from a seed. */
package org.orderlyferry.testkit.generated;
