package org.orderlyferry.record.text;

import ch.randelshofer.fastdoubleparser.JavaDoubleParser;
import ch.randelshofer.fastdoubleparser.JavaFloatParser;
import com.fasterxml.jackson.core.io.NumberOutput;
import java.nio.charset.StandardCharsets;
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

    /** Room that {@link #write(double, byte[], int)} needs. */
    public static final int DOUBLE_ROOM = ShortestDecimal.ROOM;

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

    private static final int DATE_LENGTH = 10;

    /** Where a moment's whole second ends. */
    private static final int SECOND_END = 19;

    private JavaValues() {}

    // JDK 17's toString isn't always the shortest text; these are.

    /** The value text of a DOUBLE: the shortest that gives the same number again. */
    public static String text(double value) {
        if (Double.isFinite(value)) {
            byte[] text = new byte[ShortestDecimal.ROOM];
            return new String(text, 0, ShortestDecimal.write(value, text, 0), StandardCharsets.ISO_8859_1);
        }
        return Double.isNaN(value) ? "NaN" : value > 0 ? "INF" : "-INF";
    }

    /**
     * Writes the value text of a DOUBLE.
     *
     * @param to with room for {@link #DOUBLE_ROOM} bytes, of which those behind the text may change
     * @return where it ends
     */
    public static int write(double value, byte[] to, int at) {
        if (Double.isFinite(value)) {
            return ShortestDecimal.write(value, to, at);
        }
        String word = text(value);
        for (int i = 0; i < word.length(); i++) {
            to[at + i] = (byte) word.charAt(i);
        }
        return at + word.length();
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
            default -> JavaDoubleParser.parseDouble(text);
        };
    }

    /** The number that the value text of a REAL stands for. */
    public static float floatOf(String text) {
        return switch (text) {
            case "INF" -> Float.POSITIVE_INFINITY;
            case "-INF" -> Float.NEGATIVE_INFINITY;
            default -> JavaFloatParser.parseFloat(text);
        };
    }

    /** The date that a value text stands for. */
    public static LocalDate date(String text) {
        return isUsualDate(text, text.length()) ? usualDate(text) : LocalDate.parse(text, DATE);
    }

    /** The moment without a zone that a value text stands for. */
    public static LocalDateTime timestamp(String text) {
        return isUsual(text, text.length()) ? usual(text, text.length()) : LocalDateTime.parse(text, TIMESTAMP);
    }

    /** The moment with its zone that a value text stands for. */
    public static OffsetDateTime instant(String text) {
        int length = text.length() - 1;
        return length > 0 && text.charAt(length) == 'Z' && isUsual(text, length)
                ? usual(text, length).atOffset(ZoneOffset.UTC)
                : OffsetDateTime.parse(text, INSTANT);
    }

    // Most dates have four digits for the year, and are read here many times as fast as by a formatter.

    private static boolean isUsualDate(String text, int end) {
        return end == DATE_LENGTH
                && areDigits(text, 0, 4)
                && text.charAt(4) == '-'
                && areDigits(text, 5, 7)
                && text.charAt(7) == '-'
                && areDigits(text, 8, DATE_LENGTH);
    }

    private static LocalDate usualDate(String text) {
        return LocalDate.of(number(text, 0, 4), number(text, 5, 7), number(text, 8, DATE_LENGTH));
    }

    private static boolean isUsual(String text, int end) {
        return end >= SECOND_END
                && isUsualDate(text, DATE_LENGTH)
                && text.charAt(DATE_LENGTH) == 'T'
                && areDigits(text, 11, 13)
                && text.charAt(13) == ':'
                && areDigits(text, 14, 16)
                && text.charAt(16) == ':'
                && areDigits(text, 17, SECOND_END)
                && (end == SECOND_END
                        || end > SECOND_END + 1
                                && end <= SECOND_END + 10
                                && text.charAt(SECOND_END) == '.'
                                && areDigits(text, SECOND_END + 1, end));
    }

    private static LocalDateTime usual(String text, int end) {
        int nano = 0;
        for (int i = SECOND_END + 1; i < SECOND_END + 10; i++) {
            nano = nano * 10 + (i < end ? text.charAt(i) - '0' : 0);
        }
        return LocalDateTime.of(
                usualDate(text),
                LocalTime.of(number(text, 11, 13), number(text, 14, 16), number(text, 17, SECOND_END), nano));
    }

    private static boolean areDigits(String text, int start, int end) {
        for (int i = start; i < end; i++) {
            char c = text.charAt(i);
            if (c < '0' || c > '9') {
                return false;
            }
        }
        return true;
    }

    private static int number(String text, int start, int end) {
        int number = 0;
        for (int i = start; i < end; i++) {
            number = number * 10 + text.charAt(i) - '0';
        }
        return number;
    }
}
