package org.orderlyferry.report;

import org.jspecify.annotations.NullMarked;

/**
 * How many records moved in a stretch of time.
 *
 * @param from seconds since the step began
 * @param seconds how long the stretch is
 * @param rows how many records
 * @param bytes the size of their values
 */
@NullMarked
public record PaceSample(double from, double seconds, long rows, long bytes) {}
