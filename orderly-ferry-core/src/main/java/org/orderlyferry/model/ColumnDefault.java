package org.orderlyferry.model;

/** What a column takes when a record gives it no value. */
public sealed interface ColumnDefault {

    /**
     * A constant.
     *
     * @param text the value text of the column's logical type; binary values as base64
     */
    record Literal(String text) implements ColumnDefault {}

    /**
     * An expression, kept as its system wrote it.
     *
     * @param sql the expression's text
     * @param system whose SQL it is, for example {@code H2}; {@link #ISO} where every system takes it
     */
    record Expression(String sql, String system) implements ColumnDefault {
        /** The expression is one of ISO/IEC 9075-2, such as {@code CURRENT_TIMESTAMP}. */
        public static final String ISO = "ISO";
    }
}
