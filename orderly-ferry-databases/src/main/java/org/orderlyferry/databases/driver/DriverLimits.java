package org.orderlyferry.databases.driver;

import java.util.Set;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.databases.driver.Trial.Lost;
import org.orderlyferry.record.text.InvalidValueException;

/** What a {@link Trial} has shown that a system would change in silence; it is refused instead, value by value. */
final class DriverLimits {

    private static final int FOUR_BYTES = 0xF0;

    private DriverLimits() {}

    static ValueLimit text(Set<Lost> lost, String system) {
        boolean empty = lost.contains(Lost.EMPTY_TEXT);
        boolean blank = lost.contains(Lost.BLANK_END);
        boolean nul = lost.contains(Lost.NUL);
        boolean beyond = lost.contains(Lost.BEYOND_FIRST_PLANE);
        if (!(empty || blank || nul || beyond)) {
            return ValueLimit.NONE;
        }
        return (batch, row, column) -> {
            byte[] bytes = batch.bytes();
            int start = batch.start(row, column);
            int end = batch.end(row, column);
            if (empty && start == end) {
                throw new InvalidValueException("is an empty text, which " + system + " holds as null");
            }
            if (blank && end > start && bytes[end - 1] == ' ') {
                throw new InvalidValueException("ends in a blank, which " + system + " doesn't keep");
            }
            for (int i = start; (nul || beyond) && i < end; i++) {
                if (nul && bytes[i] == 0) {
                    throw new InvalidValueException("holds U+0000, which " + system + " doesn't keep");
                }
                if (beyond && (bytes[i] & 0xFF) >= FOUR_BYTES) {
                    throw new InvalidValueException(
                            "holds a character beyond U+FFFF, which this database of " + system + " doesn't keep");
                }
            }
        };
    }

    static ValueLimit number(Set<Lost> lost, String system) {
        boolean none = lost.contains(Lost.NOT_A_NUMBER);
        boolean infinite = lost.contains(Lost.INFINITY);
        if (!(none || infinite)) {
            return ValueLimit.NONE;
        }
        return (batch, row, column) -> {
            String text = batch.text(row, column);
            if (none && text.equals("NaN") || infinite && text.endsWith("INF")) {
                throw new InvalidValueException("is a number that " + system + " doesn't have");
            }
        };
    }

    /** Times that come back as they are given. */
    static ValueLimit unshifted(Set<Shift> shifted, String system) {
        return shifted.isEmpty()
                ? ValueLimit.NONE
                : (batch, row, column) -> {
                    String text = batch.text(row, column);
                    for (Shift shift : shifted) {
                        shift.refuse(text, system);
                    }
                };
    }
}
