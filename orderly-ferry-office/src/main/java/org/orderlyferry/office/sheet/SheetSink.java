package org.orderlyferry.office.sheet;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;

/** Where the cells of one kind of spreadsheet go: sheet by sheet, row by row, and each row's cells from left to right. */
public interface SheetSink {

    /**
     * Begins a sheet.
     *
     * @param headings its first row
     * @param widths how wide columns are, in characters
     */
    void begin(String name, List<String> headings, List<Integer> widths);

    /**
     * A text as a cell holds it.
     *
     * @throws IllegalArgumentException if no cell does; the message says why
     */
    void mustHold(String text);

    /** Puts a text that the sheet holds. */
    void text(int place, String text);

    /**
     * Puts an exact number of few digits.
     *
     * @param scale how many digits are shown behind the point; 0 for as many as there are
     */
    void number(int place, BigDecimal number, int scale);

    /** Puts a finite number that isn't minus zero. */
    void floating(int place, double number);

    void truth(int place, boolean value);

    /** Puts a day; false, and nothing, where the sheet has no such day. */
    boolean day(int place, LocalDate day);

    /** Puts a time of day, or doesn't. */
    boolean time(int place, LocalTime time);

    /** Puts a day with its time, or doesn't. */
    boolean moment(int place, LocalDateTime moment);

    /** Makes sure that a row of nothing is a row. */
    void nothing();

    /** Ends a row. */
    void endRow();

    /** Ends a sheet. */
    void end();

    /** Ends the file; it is whole then. */
    void finish();

    /** Lets go of what it has; without {@link #finish} the file is thrown away as it is. */
    void close();
}
