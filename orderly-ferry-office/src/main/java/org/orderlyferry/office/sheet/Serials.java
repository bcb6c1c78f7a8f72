package org.orderlyferry.office.sheet;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;

/** Dates and times as spreadsheets count them: in days since the end of 1899, with a fraction for the time of day. */
public final class Serials {

    /** Day 0, counted back from March 1900: spreadsheets take 1900 for a leap year. */
    private static final LocalDate EPOCH = LocalDate.of(1899, 12, 30);

    private static final int LEAP_DAY = 60;
    /** Behind the last day of the year 9999. */
    private static final BigDecimal END = BigDecimal.valueOf(2_958_466);

    private static final LocalDate FIRST = LocalDate.of(1900, 3, 1);
    private static final LocalDate LAST = LocalDate.of(9999, 12, 31);
    private static final LocalDate EPOCH_1904 = LocalDate.of(1904, 1, 1);
    private static final long DAY_MILLIS = 86_400_000;
    /** So many digits tell each millisecond from the next. */
    private static final int DIGITS = 12;

    private Serials() {}

    /** Whether a spreadsheet can hold the day as a date. */
    public static boolean holds(LocalDate day) {
        return !day.isBefore(FIRST) && !day.isAfter(LAST);
    }

    /** Whether a spreadsheet can hold the time of day: to the millisecond. */
    public static boolean holds(LocalTime time) {
        return time.getNano() % 1_000_000 == 0;
    }

    public static BigDecimal of(LocalDate day) {
        return BigDecimal.valueOf(ChronoUnit.DAYS.between(EPOCH, day));
    }

    public static BigDecimal of(LocalTime time) {
        return BigDecimal.valueOf(time.toNanoOfDay() / 1_000_000)
                .divide(BigDecimal.valueOf(DAY_MILLIS), DIGITS, RoundingMode.HALF_UP);
    }

    public static BigDecimal of(LocalDateTime moment) {
        return of(moment.toLocalDate()).add(of(moment.toLocalTime()));
    }

    /**
     * The moment that a number stands for.
     *
     * @throws DateTimeException if spreadsheets have no such day
     */
    public static LocalDateTime moment(BigDecimal serial, boolean from1904) {
        BigDecimal days = serial.setScale(0, RoundingMode.FLOOR);
        if (days.signum() < 0 || days.compareTo(END) >= 0) {
            throw new DateTimeException("not between the first and the last day");
        }
        // the fraction alone as a double is exact to far less than a millisecond
        long millis = serial.scale() <= 0 ? 0 : Math.round(serial.subtract(days).doubleValue() * DAY_MILLIS);
        return day(days.longValueExact(), from1904).atStartOfDay().plus(millis, ChronoUnit.MILLIS);
    }

    private static LocalDate day(long number, boolean from1904) {
        if (from1904) {
            return EPOCH_1904.plusDays(number);
        }
        if (number == LEAP_DAY) {
            throw new DateTimeException("February 29 of 1900 never was");
        }
        return EPOCH.plusDays(number < LEAP_DAY ? number + 1 : number);
    }
}
