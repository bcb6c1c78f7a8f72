/** Places that are held in memory, for whatever a real one would say slowly or not at all. */
package org.orderlyferry.testkit.doubles;
