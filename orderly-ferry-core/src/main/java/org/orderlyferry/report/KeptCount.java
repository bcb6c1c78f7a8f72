package org.orderlyferry.report;

import org.jspecify.annotations.NullMarked;

/**
 * How many records a set tells of one of its tables.
 *
 * @param digest of the records
 */
@NullMarked
public record KeptCount(String table, long rows, String digest) {
    public KeptCount {
        table = Bounded.text(table);
        digest = Bounded.text(digest);
    }
}
