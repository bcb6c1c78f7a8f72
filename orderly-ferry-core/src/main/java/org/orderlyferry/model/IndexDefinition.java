package org.orderlyferry.model;

import java.util.List;

/**
 * An index that no key implies.
 *
 * @param name the index's name
 * @param unique whether it also forbids equal entries
 * @param parts what it orders by, first things first
 */
public record IndexDefinition(String name, boolean unique, List<Part> parts) {
    public IndexDefinition {
        parts = List.copyOf(parts);
    }

    /**
     * One column of an index.
     *
     * @param column the column's name
     * @param descending largest first
     */
    public record Part(String column, boolean descending) {}

    /** The names of its columns. */
    public List<String> columns() {
        return parts.stream().map(Part::column).toList();
    }

    /** An ascending index. */
    public static IndexDefinition of(String name, boolean unique, List<String> columns) {
        return new IndexDefinition(
                name, unique, columns.stream().map(c -> new Part(c, false)).toList());
    }
}
