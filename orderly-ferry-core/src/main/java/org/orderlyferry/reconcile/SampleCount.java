package org.orderlyferry.reconcile;

import java.math.BigDecimal;
import org.jspecify.annotations.NullMarked;

/**
 * That only a sample of the records was compared.
 *
 * @param percent which share was asked for
 * @param rows how many of the source's records were in it
 * @param all how many the source has
 */
@NullMarked
public record SampleCount(BigDecimal percent, long rows, long all) {}
