package org.orderlyferry.databases.dialect;

import java.util.Arrays;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;

/** What of a column's values a system can't hold; asked for each value before it is given to the system. */
@FunctionalInterface
public interface ValueLimit {

    /** The most digits of a second's fraction that some systems keep. */
    int MICROSECONDS = 6;

    /** Every value of the column's type can be held. */
    ValueLimit NONE = (batch, row, column) -> {};

    /** This limit, and then another one. */
    default ValueLimit and(ValueLimit other) {
        return (batch, row, column) -> {
            check(batch, row, column);
            other.check(batch, row, column);
        };
    }

    /** Times with at most six digits behind a second. */
    static ValueLimit microseconds(String system) {
        return fraction(MICROSECONDS, system);
    }

    /** Times with at most so many digits behind a second. */
    static ValueLimit fraction(int most, String system) {
        return (batch, row, column) -> {
            byte[] bytes = batch.bytes();
            int end = batch.end(row, column);
            for (int i = batch.start(row, column); i < end; i++) {
                if (bytes[i] == '.') {
                    int digits = end - i - 1 - (bytes[end - 1] == 'Z' ? 1 : 0);
                    if (digits > most) {
                        throw new InvalidValueException("has more than " + most
                                + " digits of a second's fraction, which " + system + " would round");
                    }
                    return;
                }
            }
        };
    }

    /**
     * Dates and times of the years 1 to 9999.
     *
     * @param dates which dates these are, for a message, such as {@code MariaDB's dates}
     */
    static ValueLimit years(String dates) {
        return (batch, row, column) -> {
            byte[] bytes = batch.bytes();
            int start = batch.start(row, column);
            boolean fourDigits = batch.end(row, column) > start + 4 && bytes[start] != '-' && bytes[start + 4] == '-';
            boolean zero = fourDigits
                    && bytes[start] == '0'
                    && bytes[start + 1] == '0'
                    && bytes[start + 2] == '0'
                    && bytes[start + 3] == '0';
            if (!fourDigits || zero) {
                throw new InvalidValueException("can't be held: " + dates + " go from the year 1 to 9999");
            }
        };
    }

    /** Decimals of at most so many digits in all, and behind the point; zeros at the end count nothing. */
    static ValueLimit digits(int most, int mostBehind, String system) {
        return (batch, row, column) -> {
            String text = batch.text(row, column).replace("-", "");
            int point = text.indexOf('.');
            int whole = (point < 0 ? text : text.substring(0, point))
                    .replaceFirst("^0+", "")
                    .length();
            int behind = point < 0
                    ? 0
                    : text.substring(point + 1).replaceFirst("0+$", "").length();
            if (whole > most - mostBehind || behind > mostBehind) {
                throw new InvalidValueException("has more digits than " + system + " holds: " + (most - mostBehind)
                        + " before and " + mostBehind + " behind the point");
            }
        };
    }

    /** Floating point numbers that are numbers, and finite. */
    static ValueLimit finite(String system) {
        return (batch, row, column) -> {
            int last = batch.bytes()[batch.end(row, column) - 1];
            if (last == 'N' || last == 'F') {
                throw new InvalidValueException("can't be held: " + system + "'s floating point numbers are finite");
            }
        };
    }

    /** Texts of at most so many units of UTF-16, of which a character beyond the first plane of Unicode takes two. */
    static ValueLimit units(int most, String system) {
        return (batch, row, column) -> {
            int start = batch.start(row, column);
            int end = batch.end(row, column);
            if (end - start <= most) {
                return;
            }
            byte[] bytes = batch.bytes();
            int units = 0;
            for (int i = start; i < end; i++) {
                int lead = bytes[i] & 0xFF;
                // bytes that go on with a character count nothing; a lead of four bytes stands for two units
                units += lead < 0x80 || lead >= 0xC0 ? lead >= 0xF0 ? 2 : 1 : 0;
            }
            if (units > most) {
                throw new InvalidValueException("has " + units + " units of UTF-16, by which " + system + " counts the "
                        + most + " that the column holds");
            }
        };
    }

    /** Floating point numbers whose zeros have no sign: that is noted, since they are equal, but not the same bits. */
    static ValueLimit unsignedZero(TableName table, String column, String system, LoadNotes notes) {
        return (batch, row, at) -> {
            int start = batch.start(row, at);
            if (batch.end(row, at) - start == MINUS_ZERO.length
                    && Arrays.equals(
                            batch.bytes(), start, start + MINUS_ZERO.length, MINUS_ZERO, 0, MINUS_ZERO.length)) {
                notes.value(table, column, "of -0.0 arrived as 0.0: " + system + " keeps no sign of zero");
            }
        };
    }

    /** The text of a negative zero. */
    byte[] MINUS_ZERO = {'-', '0', '.', '0'};

    /**
     * Looks at a value that is no null.
     *
     * @throws InvalidValueException if the system can't hold it
     */
    void check(Records batch, int row, int column) throws InvalidValueException;
}
