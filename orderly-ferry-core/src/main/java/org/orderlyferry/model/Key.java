package org.orderlyferry.model;

import java.util.List;

/**
 * A primary or unique key.
 *
 * @param name the constraint's name; empty where the system gave none
 * @param columns in the key's order
 */
public record Key(String name, List<String> columns) {
    public Key {
        columns = List.copyOf(columns);
        if (columns.isEmpty()) {
            throw new IllegalArgumentException("a key has at least one column");
        }
    }

    /** Its name for messages: its columns, where it has none. */
    public String shown() {
        return name.isEmpty() ? String.join("+", columns) : name;
    }
}
