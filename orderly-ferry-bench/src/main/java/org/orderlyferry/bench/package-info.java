/** Measurements, each against a plain baseline in the same run: ratios hold where a machine's speed drifts. */
package org.orderlyferry.bench;
