package org.orderlyferry.report;

import org.jspecify.annotations.NullMarked;

/**
 * When a slice of a table moved.
 *
 * @param from seconds since the step began
 * @param seconds how long it took
 */
@NullMarked
public record SliceTime(String table, double from, double seconds) {
    public SliceTime {
        table = Bounded.text(table);
    }
}
