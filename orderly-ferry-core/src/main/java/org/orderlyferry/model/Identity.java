package org.orderlyferry.model;

/**
 * That a column's values come from a counter.
 *
 * @param always whether an insert may not give a value of its own ({@code GENERATED ALWAYS})
 * @param start the first value
 * @param increment the step
 * @param next the value that the next insert would take
 */
public record Identity(boolean always, long start, long increment, long next) {}
