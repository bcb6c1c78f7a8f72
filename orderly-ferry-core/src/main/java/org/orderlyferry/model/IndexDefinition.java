package org.orderlyferry.model;

import java.util.List;
import java.util.Optional;

/**
 * An index that no key implies.
 *
 * @param name the index's name
 * @param unique whether it also forbids equal entries
 * @param parts what it orders by, first things first
 * @param predicate of which rows it holds; empty for all of them
 * @param own all that stands behind the table's name in its system's CREATE INDEX, where the parts can't say it
 */
public record IndexDefinition(
        String name, boolean unique, List<Part> parts, Optional<SqlText> predicate, Optional<SqlText> own) {
    public IndexDefinition {
        parts = List.copyOf(parts);
    }

    /** An index of all rows, by columns. */
    public IndexDefinition(String name, boolean unique, List<Part> parts) {
        this(name, unique, parts, Optional.empty(), Optional.empty());
    }

    /**
     * One thing that an index orders by.
     *
     * @param column the column's name; empty for an expression
     * @param expression what is computed of the row; empty for a column
     * @param descending largest first
     * @param prefix how many of a text's first characters count; 0 for all
     */
    public record Part(String column, Optional<SqlText> expression, boolean descending, int prefix) {
        /** A column as a part of an index. */
        public Part(String column, boolean descending) {
            this(column, Optional.empty(), descending, 0);
        }

        /** An expression as a part of an index. */
        public static Part of(SqlText expression, boolean descending) {
            return new Part("", Optional.of(expression), descending, 0);
        }

        @Override
        public String toString() {
            return expression.map(SqlText::sql).orElse(column)
                    + (prefix > 0 ? " (the first " + prefix + ")" : "")
                    + (descending ? " descending" : "");
        }
    }

    /** The same by another name. */
    public IndexDefinition withName(String other) {
        return new IndexDefinition(other, unique, parts, predicate, own);
    }

    /** Its name for messages: its columns, where it has none. */
    public String shown() {
        return name.isEmpty() ? String.join("+", columns()) : name;
    }

    /** The names of its columns; empty text for an expression. */
    public List<String> columns() {
        return parts.stream().map(Part::column).toList();
    }

    /** Whether it holds all rows by whole columns, as every system's indexes can. */
    public boolean isPlain() {
        return own.isEmpty()
                && predicate.isEmpty()
                && parts.stream().allMatch(p -> p.expression().isEmpty() && p.prefix() == 0);
    }

    /** An ascending index. */
    public static IndexDefinition of(String name, boolean unique, List<String> columns) {
        return new IndexDefinition(
                name, unique, columns.stream().map(c -> new Part(c, false)).toList());
    }
}
