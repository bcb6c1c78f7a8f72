package org.orderlyferry.model;

/**
 * By which a generated column gets its values (ISO/IEC 9075-2, {@code GENERATED ALWAYS AS}).
 *
 * @param expression what is computed
 * @param stored whether the value is kept in the row, rather than computed when it is asked for
 */
public record GenerationRule(SqlText expression, boolean stored) {}
