package org.orderlyferry.model;

import java.util.Locale;
import java.util.stream.Stream;

/** What happens to a referring row when the row it refers to goes or changes (ISO/IEC 9075-2). */
public enum ReferentialAction {
    NO_ACTION,
    RESTRICT,
    CASCADE,
    SET_NULL,
    SET_DEFAULT;

    /** Whether it changes the referring columns themselves when the row they refer to changes. */
    public boolean isWriting() {
        return this == CASCADE || isReplacing();
    }

    /** Whether it gives the referring columns another value: null, or their default. */
    public boolean isReplacing() {
        return this == SET_NULL || this == SET_DEFAULT;
    }

    /** As ISO SQL writes it behind ON UPDATE and ON DELETE. */
    public String sql() {
        return name().replace('_', ' ');
    }

    /**
     * Reads the SQL words, such as {@code SET NULL}.
     *
     * @throws IllegalArgumentException if they are those of no action
     */
    public static ReferentialAction ofSql(String sql) {
        String words = sql.strip().toUpperCase(Locale.ROOT);
        return Stream.of(values())
                .filter(a -> a.sql().equals(words))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException(words + " is no referential action"));
    }
}
