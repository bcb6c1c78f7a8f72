package org.orderlyferry.office.ods;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.office.sheet.CellKind;
import org.orderlyferry.office.sheet.CellNumbers;
import org.orderlyferry.record.text.JavaValues;

/**
 * A cell's value.
 *
 * @param raw as the file has it
 * @param value a number, a day, a time, a moment, a truth value; null for a text
 */
record OdsCell(CellKind kind, String raw, @Nullable Object value) {

    static final OdsCell NOTHING = new OdsCell(CellKind.NOTHING, "", null);

    /** An exponent of more digits than a double's was made to do harm. */
    private static final int LONGEST_NUMBER = 1_500;

    /** Nanoseconds; a double of the present century's days is 0.6 microseconds apart from the next. */
    private static final int NOISE = 2_000;

    static OdsCell text(String text) {
        return new OdsCell(CellKind.TEXT, text, null);
    }

    static OdsCell error(String raw) {
        return new OdsCell(CellKind.ERROR, raw, null);
    }

    static OdsCell number(String raw) {
        if (raw.length() > LONGEST_NUMBER) {
            return error(raw);
        }
        try {
            return new OdsCell(CellKind.NUMBER, raw, CellNumbers.seen(new BigDecimal(raw.strip())));
        } catch (NumberFormatException e) {
            return error(raw);
        }
    }

    /** A truth value; a number that a program shows as one is the number that it holds. */
    static OdsCell truth(String raw) {
        return raw.equals("true") || raw.equals("false")
                ? new OdsCell(CellKind.TRUTH, raw, raw.equals("true"))
                : number(raw);
    }

    /** A day, or a moment; in a calendar that has neither a year 10000 nor one before the year 1 it is what it says. */
    static OdsCell date(String raw) {
        try {
            return raw.indexOf('T') < 0
                    ? new OdsCell(CellKind.DAY, raw, LocalDate.parse(raw))
                    : new OdsCell(CellKind.MOMENT, raw, seen(LocalDateTime.parse(raw)));
        } catch (DateTimeException e) {
            return text(raw);
        }
    }

    /** A time of day; a length of time that is none is what it says. */
    static OdsCell time(String raw) {
        try {
            Duration length = Duration.parse(raw);
            length = length.plusNanos(correction(length.getNano()));
            if (!length.isNegative() && length.compareTo(Duration.ofDays(1)) < 0) {
                return new OdsCell(CellKind.TIME, raw, LocalTime.ofNanoOfDay(length.toNanos()));
            }
        } catch (DateTimeException | ArithmeticException e) {
            // a length of months and years, or longer than time
        }
        return text(raw);
    }

    private static LocalDateTime seen(LocalDateTime moment) {
        return moment.plusNanos(correction(moment.getNano()));
    }

    /**
     * Programs count in days, as doubles, and write nine digits of what comes of it: what is beside a whole millisecond by no more
     * than such a double leaves open is that millisecond. Whoever has written microseconds has meant them.
     */
    private static int correction(int nanos) {
        int over = nanos % 1_000_000;
        if (nanos % 1_000 == 0) {
            return 0;
        }
        return over <= NOISE ? -over : over >= 1_000_000 - NOISE ? 1_000_000 - over : 0;
    }

    /** How many digits of a second's fraction it has. */
    int fraction() {
        int nanos = value instanceof LocalDateTime moment
                ? moment.getNano()
                : value instanceof LocalTime time ? time.getNano() : 0;
        int digits = nanos == 0 ? 0 : 9;
        for (; digits > 0 && nanos % 10 == 0; digits--) {
            nanos /= 10;
        }
        return digits;
    }

    String text(LogicalType type) {
        if (value instanceof BigDecimal number) {
            return CellNumbers.text(number, kind, type, false);
        } else if (value instanceof LocalDate day) {
            return day(day.atStartOfDay(), JavaValues.text(day), type);
        } else if (value instanceof LocalDateTime moment) {
            if (type.equals(LogicalType.DATE)) {
                throw new DateTimeException("it has a time of day too");
            }
            return day(moment, JavaValues.text(moment), type);
        } else if (value instanceof LocalTime time) {
            return JavaValues.text(time);
        }
        return raw;
    }

    private static String day(LocalDateTime moment, String shown, LogicalType type) {
        return switch (type.name()) {
            case TIMESTAMP -> JavaValues.text(moment);
            case TIMESTAMP_WITH_TIME_ZONE -> JavaValues.text(moment) + 'Z';
            default -> shown;
        };
    }
}
