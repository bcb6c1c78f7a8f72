package org.orderlyferry.model;

import java.util.Optional;
import java.util.Set;

/**
 * Something seen at the source that can't be carried.
 *
 * @param kind what it is, in the system's words: {@code view}, {@code trigger}, {@code check} …
 * @param name what it is called, with its table where it has one
 * @param reason why it stays
 * @param table whose it is, if it is a table's or of one: then it is of no concern where that table isn't carried
 */
public record LeftBehind(String kind, String name, String reason, Optional<TableName> table) {

    /** What changes records (ISO/IEC 9075-2, 14), and what loads them. */
    private static final Set<String> CHANGING =
            Set.of("INSERT", "UPDATE", "DELETE", "MERGE", "TRUNCATE", "REPLACE", "COPY", "LOAD");

    /** What is no table's, or isn't told apart by tables. */
    public LeftBehind(String kind, String name, String reason) {
        this(kind, name, reason, Optional.empty());
    }

    /** Something of a table as a whole. */
    public static LeftBehind of(TableName table, String kind, String reason) {
        return new LeftBehind(kind, table.toString(), reason, Optional.of(table));
    }

    /**
     * A part of a table.
     *
     * @param part its name, or its column's
     */
    public static LeftBehind of(TableName table, String kind, String part, String reason) {
        return new LeftBehind(kind, table + "." + part, reason, Optional.of(table));
    }

    /** Whether these are records, or a statement that would have changed some: without it, what arrives may not be all. */
    public boolean isOfRecords() {
        return kind.equals("records") || kind.equals("statement") && CHANGING.contains(name);
    }

    @Override
    public String toString() {
        return kind + " " + name + ": " + reason;
    }
}
