package org.orderlyferry.model;

import java.util.List;

/**
 * The only texts that a column may hold.
 *
 * @param name the type's name; empty where its system gives it none
 * @param values in the order in which the system sorts them
 */
public record Enumeration(String name, List<String> values) {
    public Enumeration {
        values = List.copyOf(values);
        if (values.isEmpty()) {
            throw new IllegalArgumentException("an enumeration has at least one value");
        }
    }

    /** How many characters the longest value has. */
    public int longest() {
        return values.stream()
                .mapToInt(v -> v.codePointCount(0, v.length()))
                .max()
                .orElse(0);
    }
}
