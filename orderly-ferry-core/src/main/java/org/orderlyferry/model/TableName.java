package org.orderlyferry.model;

import java.util.Objects;

/**
 * A table's name, with its schema where a place has several.
 *
 * @param schema the schema; empty for the place's own default
 * @param name the name, as the system holds it, unquoted
 */
public record TableName(String schema, String name) implements Comparable<TableName> {

    public TableName {
        Objects.requireNonNull(schema, "schema");
        if (name.isEmpty()) {
            throw new IllegalArgumentException("a table's name can't be empty");
        }
    }

    /** A table in the default schema. */
    public static TableName of(String name) {
        return new TableName("", name);
    }

    /** A table as {@link #toString} writes it; what stands before the first point is its schema. */
    public static TableName parse(String text) {
        int point = text.indexOf('.');
        return point <= 0 || point == text.length() - 1
                ? of(text)
                : new TableName(text.substring(0, point), text.substring(point + 1));
    }

    @Override
    public int compareTo(TableName other) {
        int bySchema = schema.compareTo(other.schema);
        return bySchema != 0 ? bySchema : name.compareTo(other.name);
    }

    /** {@code schema.name}, or the bare name in the default schema. */
    @Override
    public String toString() {
        return schema.isEmpty() ? name : schema + "." + name;
    }
}
