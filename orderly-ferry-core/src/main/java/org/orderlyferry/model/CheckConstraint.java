package org.orderlyferry.model;

/**
 * A condition that every row meets.
 *
 * @param name the constraint's name; empty where the system gave none
 * @param condition as its system wrote it
 */
public record CheckConstraint(String name, SqlText condition) {
    /** A check whose condition is SQL of a system. */
    public CheckConstraint(String name, String expression, String system) {
        this(name, new SqlText(expression, system));
    }

    /** The condition, as SQL of its system. */
    public String expression() {
        return condition.sql();
    }

    /** Whose SQL it is. */
    public String system() {
        return condition.system();
    }
}
