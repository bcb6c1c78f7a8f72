package org.orderlyferry.record.text;

import com.fasterxml.jackson.core.io.NumberOutput;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.format.SignStyle;
import java.time.temporal.ChronoField;
import org.apiguardian.api.API;

/**
 * Value text to and from Java's own types, for the edges where a driver or a file library needs an object. The
 * {@code text} methods give the proper form; the others read it, and throw {@link java.time.DateTimeException} for a text
 * that isn't one.
 */
@API(status = API.Status.INTERNAL)
public final class JavaValues {

    private static final DateTimeFormatter DATE = new DateTimeFormatterBuilder()
            .appendValue(ChronoField.YEAR, 4, 9, SignStyle.NORMAL)
            .appendLiteral('-')
            .appendValue(ChronoField.MONTH_OF_YEAR, 2)
            .appendLiteral('-')
            .appendValue(ChronoField.DAY_OF_MONTH, 2)
            .toFormatter(java.util.Locale.ROOT)
            .withResolverStyle(java.time.format.ResolverStyle.STRICT)
            .withChronology(java.time.chrono.IsoChronology.INSTANCE);

    private static final DateTimeFormatter TIMESTAMP = new DateTimeFormatterBuilder()
            .append(DATE)
            .appendLiteral('T')
            .append(DateTimeFormatter.ISO_LOCAL_TIME)
            .toFormatter(java.util.Locale.ROOT);

    private static final DateTimeFormatter INSTANT =
            new DateTimeFormatterBuilder().append(TIMESTAMP).appendOffsetId().toFormatter(java.util.Locale.ROOT);

    private JavaValues() {}

    // JDK 17's Double.toString isn't always the shortest text; this one is (the Schubfach algorithm).

    /** The value text of a DOUBLE: the shortest that gives the same number again. */
    public static String text(double value) {
        if (Double.isFinite(value)) {
            return NumberOutput.toString(value, true);
        }
        return Double.isNaN(value) ? "NaN" : value > 0 ? "INF" : "-INF";
    }

    /** The value text of a REAL: the shortest that gives the same number again. */
    public static String text(float value) {
        if (Float.isFinite(value)) {
            return NumberOutput.toString(value, true);
        }
        return Float.isNaN(value) ? "NaN" : value > 0 ? "INF" : "-INF";
    }

    /** The value text of a DATE. */
    public static String text(LocalDate value) {
        String iso = value.toString();
        return iso.charAt(0) == '+' ? iso.substring(1) : iso;
    }

    /** The value text of a TIME. */
    public static String text(LocalTime value) {
        StringBuilder text = new StringBuilder(18);
        two(text, value.getHour()).append(':');
        two(text, value.getMinute()).append(':');
        two(text, value.getSecond());
        int nano = value.getNano();
        if (nano != 0) {
            String digits = Integer.toString(1_000_000_000 + nano);
            int end = digits.length();
            while (digits.charAt(end - 1) == '0') {
                end--;
            }
            text.append('.').append(digits, 1, end);
        }
        return text.toString();
    }

    private static StringBuilder two(StringBuilder text, int number) {
        return text.append((char) ('0' + number / 10)).append((char) ('0' + number % 10));
    }

    /** The value text of a TIMESTAMP. */
    public static String text(LocalDateTime value) {
        return text(value.toLocalDate()) + 'T' + text(value.toLocalTime());
    }

    /** The instant, in UTC; the offset is not kept. */
    public static String text(OffsetDateTime value) {
        return text(value.withOffsetSameInstant(ZoneOffset.UTC).toLocalDateTime()) + 'Z';
    }

    /** The number that the value text of a DOUBLE stands for. */
    public static double doubleOf(String text) {
        return switch (text) {
            case "INF" -> Double.POSITIVE_INFINITY;
            case "-INF" -> Double.NEGATIVE_INFINITY;
            default -> Double.parseDouble(text);
        };
    }

    /** The number that the value text of a REAL stands for. */
    public static float floatOf(String text) {
        return switch (text) {
            case "INF" -> Float.POSITIVE_INFINITY;
            case "-INF" -> Float.NEGATIVE_INFINITY;
            default -> Float.parseFloat(text);
        };
    }

    /** The date that a value text stands for. */
    public static LocalDate date(String text) {
        return LocalDate.parse(text, DATE);
    }

    /** The moment without a zone that a value text stands for. */
    public static LocalDateTime timestamp(String text) {
        return LocalDateTime.parse(text, TIMESTAMP);
    }

    /** The moment with its zone that a value text stands for. */
    public static OffsetDateTime instant(String text) {
        return OffsetDateTime.parse(text, INSTANT);
    }
}
