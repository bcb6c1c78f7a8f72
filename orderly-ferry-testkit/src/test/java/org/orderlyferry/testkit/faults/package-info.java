/** Doubles that fail where the real thing rarely does: at the n-th call, at a commit, on a disk. */
package org.orderlyferry.testkit.faults;
