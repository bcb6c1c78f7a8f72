package org.orderlyferry.columnar;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.util.concurrent.TimeUnit;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;

/** Days, times and moments as numbers: days since 1970, or units since midnight or since 1970. */
public final class Epochs {

    private static final int LAST_YEAR = 9999;
    private static final long SECOND = TimeUnit.SECONDS.toNanos(1);

    private Epochs() {}

    /** Something of a calendar. */
    @FunctionalInterface
    private interface Step {
        String run();
    }

    private static String text(long value, Step step) throws InvalidValueException {
        try {
            return step.run();
        } catch (DateTimeException | ArithmeticException e) {
            throw new InvalidValueException("is no day or time of the calendar: " + value);
        }
    }

    /** A day as value text. */
    public static String day(long days) throws InvalidValueException {
        return text(days, () -> JavaValues.text(dated(LocalDate.ofEpochDay(days))));
    }

    /**
     * A time of day as value text.
     *
     * @param nanos nanoseconds of a unit
     */
    public static String time(long units, long nanos) throws InvalidValueException {
        return text(units, () -> JavaValues.text(LocalTime.ofNanoOfDay(Math.multiplyExact(units, nanos))));
    }

    /**
     * A moment as value text.
     *
     * @param nanos nanoseconds of a unit
     * @param utc whether it has a zone, which is UTC
     */
    public static String moment(long units, long nanos, boolean utc) throws InvalidValueException {
        long second = SECOND / nanos;
        return text(units, () -> {
            LocalDateTime moment = LocalDateTime.ofEpochSecond(
                    Math.floorDiv(units, second), (int) (Math.floorMod(units, second) * nanos), ZoneOffset.UTC);
            dated(moment.toLocalDate());
            return JavaValues.text(moment) + (utc ? "Z" : "");
        });
    }

    /** A moment of a day, in nanoseconds of it, as value text. */
    public static String moment(long day, long nanos) throws InvalidValueException {
        return text(
                day,
                () -> JavaValues.text(
                        dated(LocalDate.ofEpochDay(day)).atStartOfDay().plusNanos(nanos)));
    }

    private static LocalDate dated(LocalDate day) {
        if (day.getYear() < 1 || day.getYear() > LAST_YEAR) {
            throw new DateTimeException("outside of the years 1 to 9999");
        }
        return day;
    }

    /**
     * A time of day in units.
     *
     * @throws ArithmeticException if it is finer than they are
     */
    public static long units(LocalTime time, long nanos) {
        return exactly(time.toNanoOfDay(), nanos);
    }

    /**
     * A moment in units.
     *
     * @throws ArithmeticException if it is finer than they are, or further away than they reach
     */
    public static long units(Instant moment, long nanos) {
        long part = exactly(moment.getNano(), nanos);
        try {
            return Math.addExact(Math.multiplyExact(moment.getEpochSecond(), SECOND / nanos), part);
        } catch (ArithmeticException e) {
            throw new ArithmeticException("nanoseconds reach from the year 1677 to 2262");
        }
    }

    private static long exactly(long nano, long nanos) {
        if (nano % nanos != 0) {
            throw new ArithmeticException("it has more than six digits behind the second");
        }
        return nano / nanos;
    }
}
