/** Comparing two places: counts, and digests of every value. */
package org.orderlyferry.reconcile;
