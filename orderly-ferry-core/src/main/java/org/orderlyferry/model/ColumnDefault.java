package org.orderlyferry.model;

/** What a column takes when a record gives it no value. */
public sealed interface ColumnDefault {

    /**
     * A constant.
     *
     * @param text the value text of the column's logical type; binary values as base64
     */
    record Literal(String text) implements ColumnDefault {}

    /** An expression. */
    record Expression(SqlText text) implements ColumnDefault {
        /** SQL of a system. */
        public Expression(String sql, String system) {
            this(new SqlText(sql, system));
        }

        /** The expression, as SQL of its system. */
        public String sql() {
            return text.sql();
        }

        /** Whose SQL it is. */
        public String system() {
            return text.system();
        }
    }
}
