package org.orderlyferry.model;

import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A table's name, with its schema where a place has several.
 *
 * @param schema the schema; empty for the place's own default
 * @param name the name, as the system holds it, unquoted
 */
public record TableName(String schema, String name) implements Comparable<TableName> {

    private static final String PART = "(\"(?:[^\"]++|\"\")++\"|[^.\"]+)";
    private static final Pattern TEXT = Pattern.compile("(?:" + PART + "\\.)?" + PART, Pattern.DOTALL);

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

    /**
     * Reads what {@link #text} writes: {@code name} or {@code schema.name}, each in double quotes where it holds a point or a
     * quote, which is doubled then, as in ISO SQL.
     *
     * @throws IllegalArgumentException if it is neither
     */
    public static TableName parse(String text) {
        Matcher matcher = TEXT.matcher(text);
        if (!matcher.matches()) {
            throw new IllegalArgumentException("not a table's name: " + text);
        }
        String schema = matcher.group(1) == null ? "" : unquoted(matcher.group(1));
        return new TableName(schema, unquoted(matcher.group(2)));
    }

    private static String unquoted(String part) {
        return part.startsWith("\"") ? part.substring(1, part.length() - 1).replace("\"\"", "\"") : part;
    }

    /** The name as a person writes it and {@link #parse} reads it: no two tables have the same. */
    public String text() {
        return schema.isEmpty() ? quoted(name) : quoted(schema) + "." + quoted(name);
    }

    private static String quoted(String part) {
        return part.indexOf('.') < 0 && part.indexOf('"') < 0 ? part : '"' + part.replace("\"", "\"\"") + '"';
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
