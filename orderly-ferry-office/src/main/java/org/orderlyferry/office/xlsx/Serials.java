package org.orderlyferry.office.xlsx;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;

/** Dates and times as spreadsheets count them: in days since the end of 1899, with a fraction for the time of day. */
final class Serials {

    /** Day 0. Spreadsheets take 1900 for a leap year, so this is right from March 1900 on, and not before. */
    private static final LocalDate EPOCH = LocalDate.of(1899, 12, 30);

    private static final LocalDate FIRST = LocalDate.of(1900, 3, 1);
    private static final LocalDate LAST = LocalDate.of(9999, 12, 31);
    private static final LocalDate EPOCH_1904 = LocalDate.of(1904, 1, 1);
    private static final long DAY_MILLIS = 86_400_000;
    /** So many digits tell each millisecond from the next. */
    private static final int DIGITS = 12;

    private Serials() {}

    /** Whether a spreadsheet can hold the day as a date. */
    static boolean holds(LocalDate day) {
        return !day.isBefore(FIRST) && !day.isAfter(LAST);
    }

    /** Whether a spreadsheet can hold the time of day: to the millisecond. */
    static boolean holds(LocalTime time) {
        return time.getNano() % 1_000_000 == 0;
    }

    static BigDecimal of(LocalDate day) {
        return BigDecimal.valueOf(ChronoUnit.DAYS.between(EPOCH, day));
    }

    static BigDecimal of(LocalTime time) {
        return BigDecimal.valueOf(time.toNanoOfDay() / 1_000_000)
                .divide(BigDecimal.valueOf(DAY_MILLIS), DIGITS, RoundingMode.HALF_UP);
    }

    static BigDecimal of(LocalDateTime moment) {
        return of(moment.toLocalDate()).add(of(moment.toLocalTime()));
    }

    static LocalDateTime moment(BigDecimal serial, boolean from1904) {
        if (serial.scale() <= 0) {
            return (from1904 ? EPOCH_1904 : EPOCH)
                    .plusDays(serial.longValueExact())
                    .atStartOfDay();
        }
        long millis = serial.multiply(BigDecimal.valueOf(DAY_MILLIS))
                .setScale(0, RoundingMode.HALF_UP)
                .longValueExact();
        return (from1904 ? EPOCH_1904 : EPOCH).atStartOfDay().plus(millis, ChronoUnit.MILLIS);
    }
}
