package org.orderlyferry.office.sheet;

import java.time.DateTimeException;
import org.orderlyferry.model.LogicalType;

/** A row of a sheet. */
public interface SheetRow {

    /** Which one it is, from 1. */
    int number();

    /** How many places it has at most; cells beyond them are empty. */
    int width();

    /** What a place holds. */
    CellKind kind(int place);

    /**
     * The value text for a column of a type; what doesn't fit the type is told when the value is checked.
     *
     * @throws ArithmeticException for a number outside of what spreadsheets count with
     * @throws DateTimeException for a day or time outside of the calendar
     */
    String text(int place, LogicalType type);

    /** How many digits of a second's fraction a time or a moment has; most spreadsheets keep no more than three. */
    default int fraction(int place) {
        return 0;
    }

    /** What stands in the file, for messages. */
    String raw(int place);

    /** Whether a cell without a value is a formula that nobody has computed; else it is an error. */
    boolean isUncomputed(int place);

    /** About how many characters it has, for whoever keeps rows. */
    long size();
}
