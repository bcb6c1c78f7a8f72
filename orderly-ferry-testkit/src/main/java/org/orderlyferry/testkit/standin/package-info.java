/**
 * Stand-ins for systems of which no server runs here: a driver of JDBC that answers as theirs do, from a database of H2's in the system's
 * mode with the views that its catalogue has. They show that statements are well formed and fit together, and nothing of what a
 * server would do.
 */
package org.orderlyferry.testkit.standin;
