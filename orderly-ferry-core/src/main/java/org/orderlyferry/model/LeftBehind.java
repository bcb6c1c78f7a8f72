package org.orderlyferry.model;

import java.util.Set;

/**
 * Something seen at the source that can't be carried.
 *
 * @param kind what it is, in the system's words: {@code view}, {@code trigger}, {@code check} …
 * @param name what it is called, with its table where it has one
 * @param reason why it stays
 */
public record LeftBehind(String kind, String name, String reason) {

    /** What changes records (ISO/IEC 9075-2, 14), and what loads them. */
    private static final Set<String> CHANGING =
            Set.of("INSERT", "UPDATE", "DELETE", "MERGE", "TRUNCATE", "REPLACE", "COPY", "LOAD");

    /** Whether these are records, or a statement that would have changed some: without it, what arrives may not be all. */
    public boolean isOfRecords() {
        return kind.equals("records") || kind.equals("statement") && CHANGING.contains(name);
    }

    @Override
    public String toString() {
        return kind + " " + name + ": " + reason;
    }
}
