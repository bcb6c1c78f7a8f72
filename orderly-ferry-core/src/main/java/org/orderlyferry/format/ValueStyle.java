package org.orderlyferry.format;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.format.ResolverStyle;
import java.time.temporal.ChronoField;
import java.time.temporal.TemporalAccessor;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;

/**
 * Another way to write values than their value text, in the words of W3C CSV on the Web.
 *
 * @param trueText what stands for true, several words with commas, of which the first is written; empty for {@code true}
 * @param falseText what stands for false, likewise; empty for {@code false}
 * @param decimalChar what stands in a number where others have a point
 * @param groupChar what may stand between a number's digits; empty for nothing
 * @param pattern how a date, a time or a moment is written, such as {@code dd.MM.yyyy}; empty for ISO 8601
 */
@NullMarked
public record ValueStyle(String trueText, String falseText, char decimalChar, String groupChar, String pattern) {

    public static final ValueStyle PLAIN = new ValueStyle("", "", '.', "", "");

    public ValueStyle {
        if (!pattern.isEmpty()) {
            formatter(pattern);
        }
        if (groupChar.equals(String.valueOf(decimalChar))) {
            throw new UsageException("decimalChar and groupChar can't both be " + groupChar);
        }
    }

    /** The same with a pattern for dates and times, as {@link java.time.format.DateTimeFormatter} reads it. */
    public ValueStyle withPattern(String other) {
        return new ValueStyle(trueText, falseText, decimalChar, groupChar, other);
    }

    /** The same with another character before a number's fraction. */
    public ValueStyle withDecimalChar(char other) {
        return new ValueStyle(trueText, falseText, other, groupChar, pattern);
    }

    /** The same with a text that may stand between a number's digits; empty for none. */
    public ValueStyle withGroupChar(String other) {
        return new ValueStyle(trueText, falseText, decimalChar, other, pattern);
    }

    /** Words for true and words for false, with {@code |} between them, and a comma between several. */
    public ValueStyle withTruth(String words) {
        String[] both = words.split("\\|", -1);
        if (both.length != 2 || both[0].equals(both[1])) {
            throw new UsageException("the words for true and false are two, as in Y|N, not '" + words + "'");
        }
        return new ValueStyle(both[0], both[1], decimalChar, groupChar, pattern);
    }

    /** Whether values of a type look other than their value text. */
    public boolean changes(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN -> !trueText.isEmpty() || !falseText.isEmpty();
            case DECIMAL, REAL, DOUBLE -> decimalChar != '.' || !groupChar.isEmpty();
            case SMALLINT, INTEGER, BIGINT -> !groupChar.isEmpty();
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> !pattern.isEmpty() && fits(type.name());
            default -> false;
        };
    }

    /** A pattern is for the types that have just its parts. */
    private boolean fits(TypeName name) {
        boolean day = pattern.contains("y") || pattern.contains("u");
        boolean time = pattern.contains("H") || pattern.contains("h");
        return switch (name) {
            case DATE -> day && !time;
            case TIME -> time && !day;
            default -> day && time;
        };
    }

    /**
     * The value text of what a file has.
     *
     * @throws InvalidValueException if it isn't written in this way
     */
    public String read(String text, LogicalType type) throws InvalidValueException {
        return switch (type.name()) {
            case BOOLEAN -> truth(text);
            case SMALLINT, INTEGER, BIGINT, DECIMAL, REAL, DOUBLE -> number(text);
            default -> moment(text.strip(), type.name());
        };
    }

    private static List<String> words(String text) {
        return List.of(text.split(",", -1));
    }

    private String truth(String text) throws InvalidValueException {
        if (words(trueText).contains(text)) {
            return "true";
        }
        if (words(falseText).contains(text)) {
            return "false";
        }
        throw new InvalidValueException("is neither " + trueText + " nor " + falseText);
    }

    private String number(String text) throws InvalidValueException {
        String bare = groupChar.isEmpty() ? text : text.replace(groupChar, "");
        if (decimalChar == '.') {
            return bare;
        }
        if (bare.indexOf('.') >= 0) {
            throw new InvalidValueException("has a point, and numbers are written with '" + decimalChar + "' here");
        }
        return bare.replace(decimalChar, '.');
    }

    private String moment(String text, TypeName name) throws InvalidValueException {
        try {
            TemporalAccessor parsed = formatter(pattern).parse(text);
            return switch (name) {
                case DATE -> JavaValues.text(LocalDate.from(parsed));
                case TIME -> JavaValues.text(LocalTime.from(parsed));
                case TIMESTAMP -> JavaValues.text(LocalDateTime.from(parsed));
                default ->
                    JavaValues.text(
                            parsed.isSupported(ChronoField.OFFSET_SECONDS)
                                    ? OffsetDateTime.from(parsed)
                                    : LocalDateTime.from(parsed).atOffset(ZoneOffset.UTC));
            };
        } catch (DateTimeException e) {
            throw new InvalidValueException("isn't written as " + pattern);
        }
    }

    /**
     * How a file has a value.
     *
     * @throws InvalidValueException if it can't be written in this way and read back
     */
    public String write(String value, LogicalType type) throws InvalidValueException {
        return switch (type.name()) {
            case BOOLEAN -> words(value.equals("true") ? trueText : falseText).get(0);
            case SMALLINT, INTEGER, BIGINT -> value;
            case DECIMAL, REAL, DOUBLE -> value.replace('.', decimalChar);
            default -> written(value, type);
        };
    }

    private String written(String value, LogicalType type) throws InvalidValueException {
        try {
            TemporalAccessor moment =
                    switch (type.name()) {
                        case DATE -> JavaValues.date(value);
                        case TIME -> LocalTime.parse(value);
                        case TIMESTAMP -> JavaValues.timestamp(value);
                        default -> JavaValues.instant(value);
                    };
            String text = formatter(pattern).format(moment);
            if (!moment(text, type.name()).equals(value)) {
                throw new InvalidValueException("would lose something when written as " + pattern);
            }
            return text;
        } catch (DateTimeException e) {
            throw new InvalidValueException("can't be written as " + pattern);
        }
    }

    /** CSVW's patterns are those of Unicode's UTS 35, whose {@code y} is a year without an era. */
    private static DateTimeFormatter formatter(String pattern) {
        try {
            return new DateTimeFormatterBuilder()
                    .parseCaseInsensitive()
                    .appendPattern(pattern.replace('y', 'u'))
                    .toFormatter(Locale.ROOT)
                    .withResolverStyle(ResolverStyle.STRICT);
        } catch (IllegalArgumentException e) {
            throw new UsageException("not a pattern for dates or times: " + pattern, e);
        }
    }

    /** How the first style of several that changes a type's values writes them. */
    public static Optional<ValueStyle> changing(LogicalType type, List<ValueStyle> styles) {
        return styles.stream().filter(s -> s.changes(type)).findFirst();
    }
}
