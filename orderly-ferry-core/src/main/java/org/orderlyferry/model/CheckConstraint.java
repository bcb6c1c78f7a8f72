package org.orderlyferry.model;

/**
 * A condition that every row meets.
 *
 * @param name the constraint's name; empty where the system gave none
 * @param expression as its system wrote it
 * @param system whose SQL it is, for example {@code H2}
 */
public record CheckConstraint(String name, String expression, String system) {}
