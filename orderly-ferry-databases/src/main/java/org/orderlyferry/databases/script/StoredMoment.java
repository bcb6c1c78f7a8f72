package org.orderlyferry.databases.script;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Optional;

/**
 * Dates and times as SQL Server holds them in bytes, which its older tools write into scripts. All but the two oldest types
 * have their bytes in turned order.
 */
final class StoredMoment {

    private static final LocalDate FIRST_DAY = LocalDate.of(1, 1, 1);
    private static final LocalDate OLD_FIRST_DAY = LocalDate.of(1900, 1, 1);
    /** The end of the year 9999, in days from the first one on. */
    private static final int LAST_DAY = 3_652_058;

    private static final int DATE_BYTES = 3;
    private static final int OFFSET_BYTES = 2;
    private static final long NANOS = 1_000_000_000L;
    private static final int TICKS = 300;
    private static final int MOST_DIGITS = 7;

    private StoredMoment() {}

    /**
     * The value's text.
     *
     * @param type the type's first word, in lower case
     * @param bytes one character each
     * @return nothing where the type is none of times
     * @throws IllegalArgumentException if the bytes are none of the type
     */
    static Optional<String> text(String type, String bytes) {
        return switch (type) {
            case "datetime" -> Optional.of(datetime(bytes));
            case "smalldatetime" -> Optional.of(smallDatetime(bytes));
            case "date" -> Optional.of(date(bytes).toString());
            case "time" -> Optional.of(time(bytes).format(DateTimeFormatter.ISO_LOCAL_TIME));
            case "datetime2" ->
                Optional.of(datetime2(bytes, bytes.length()).format(DateTimeFormatter.ISO_LOCAL_DATE_TIME));
            case "datetimeoffset" -> {
                int end = bytes.length() - OFFSET_BYTES;
                must(end > 0);
                short minutes = (short) turned(bytes, end, OFFSET_BYTES);
                yield Optional.of(datetime2(bytes, end)
                        .atOffset(ZoneOffset.UTC)
                        .withOffsetSameInstant(ZoneOffset.ofTotalSeconds(minutes * 60))
                        .format(DateTimeFormatter.ISO_OFFSET_DATE_TIME));
            }
            default -> Optional.empty();
        };
    }

    private static void must(boolean fits) {
        if (!fits) {
            throw new IllegalArgumentException("has bytes that are no date or time of SQL Server");
        }
    }

    /** Days since 1900, and three-hundredths of a second. */
    private static String datetime(String bytes) {
        must(bytes.length() == Long.BYTES);
        int days = (int) straight(bytes, 0, Integer.BYTES);
        long ticks = straight(bytes, Integer.BYTES, Integer.BYTES);
        // to the millisecond, as the server shows it
        long millis = Math.round(ticks * 1000.0 / TICKS);
        return OLD_FIRST_DAY
                .plusDays(days)
                .atStartOfDay()
                .plus(millis, ChronoUnit.MILLIS)
                .format(DateTimeFormatter.ISO_LOCAL_DATE_TIME);
    }

    private static String smallDatetime(String bytes) {
        must(bytes.length() == Integer.BYTES);
        return OLD_FIRST_DAY
                .plusDays(straight(bytes, 0, Short.BYTES))
                .atStartOfDay()
                .plusMinutes(straight(bytes, Short.BYTES, Short.BYTES))
                .format(DateTimeFormatter.ISO_LOCAL_DATE_TIME);
    }

    private static LocalDate date(String bytes) {
        must(bytes.length() == DATE_BYTES);
        long days = turned(bytes, 0, DATE_BYTES);
        must(days <= LAST_DAY);
        return FIRST_DAY.plusDays(days);
    }

    /** How many digits of a second's fraction there are, and that many parts of one since midnight. */
    private static LocalTime time(String bytes) {
        must(bytes.length() > 1 && bytes.charAt(0) <= MOST_DIGITS);
        long part = NANOS;
        for (int i = 0; i < bytes.charAt(0); i++) {
            part /= 10;
        }
        long parts = turned(bytes, 1, bytes.length() - 1);
        must(parts < 24 * 60 * 60 * (NANOS / part));
        return LocalTime.ofNanoOfDay(parts * part);
    }

    private static LocalDateTime datetime2(String bytes, int end) {
        must(end > DATE_BYTES);
        return date(bytes.substring(end - DATE_BYTES, end)).atTime(time(bytes.substring(0, end - DATE_BYTES)));
    }

    private static long straight(String bytes, int from, int count) {
        long value = 0;
        for (int i = from; i < from + count; i++) {
            value = value << Byte.SIZE | bytes.charAt(i);
        }
        return value;
    }

    private static long turned(String bytes, int from, int count) {
        long value = 0;
        for (int i = from + count - 1; i >= from; i--) {
            value = value << Byte.SIZE | bytes.charAt(i);
        }
        return value;
    }
}
