package org.orderlyferry.model;

/**
 * An expression, kept as a system wrote it.
 *
 * @param sql the expression's text
 * @param system whose SQL it is, for example {@code H2}; {@link #ISO} where every system takes it
 */
public record SqlText(String sql, String system) {
    /** The expression is one of ISO/IEC 9075-2, such as {@code CURRENT_TIMESTAMP}. */
    public static final String ISO = "ISO";

    /** Whether a system of this name can be given the text as it stands. */
    public boolean isOf(String other) {
        return system.equals(other);
    }
}
