package org.orderlyferry.reshape;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Restriction.Comparison;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.record.text.ValueText;

/**
 * A constant of a condition, with which a column's values are compared as values of its type: numbers by what they are worth,
 * times in their order however they are written, texts of a fixed length without the blanks at their ends, all else by code
 * points. A time without a zone is taken for one of UTC where the column has zones.
 */
final class ComparedValue {

    private static final Pattern PLAIN_NUMBER = Pattern.compile("-?[0-9]{1,100}(\\.[0-9]{1,100})?");
    private static final Pattern DAY = Pattern.compile("\\d{4}-\\d\\d-\\d\\d");
    private static final Pattern ENDS_IN_ZONE = Pattern.compile("(?s).*(Z|z|[+-]\\d\\d(:?\\d\\d)?)\\s*");
    private static final Pattern ZEROS = Pattern.compile("(\\.\\d*?)0+$");

    private final ColumnDefinition column;
    private final String constant;

    private ComparedValue(ColumnDefinition column, String constant) {
        this.column = column;
        this.constant = constant;
    }

    /**
     * A constant.
     *
     * @throws InvalidValueException if it is no value of the column's type
     */
    static ComparedValue of(ColumnDefinition column, String constant) throws InvalidValueException {
        TypeName type = column.type().name();
        if (type.isExactNumber() || type.isApproximateNumber()) {
            try {
                mustBeNumber(type, constant);
                return new ComparedValue(column, constant);
            } catch (NumberFormatException e) {
                throw new InvalidValueException("isn't a number");
            }
        }
        return new ComparedValue(
                column,
                switch (type) {
                    case DATE, TIME -> proper(type, constant);
                    case TIMESTAMP -> proper(type, withTime(constant));
                    case TIMESTAMP_WITH_TIME_ZONE -> {
                        String moment = withTime(constant);
                        boolean zoned = ENDS_IN_ZONE
                                .matcher(moment.substring(Math.min(10, moment.length())))
                                .matches();
                        yield proper(type, zoned ? moment : moment + "Z");
                    }
                    case BOOLEAN, UUID -> proper(type, constant);
                    default -> constant;
                });
    }

    /** A day alone is its midnight. */
    private static String withTime(String constant) {
        return DAY.matcher(constant).matches() ? constant + "T00:00:00" : constant;
    }

    private static String proper(TypeName type, String constant) throws InvalidValueException {
        ValueText text = ValueText.of(LogicalType.of(type));
        byte[] bytes = constant.getBytes(StandardCharsets.UTF_8);
        return text.isProper(bytes, 0, bytes.length) ? constant : text.toProper(constant);
    }

    private static void mustBeNumber(TypeName type, String text) {
        if (type.isExactNumber()) {
            new BigDecimal(text);
        } else {
            JavaValues.doubleOf(text);
        }
    }

    /** How a value compares with it: negative where it comes before it, 0 where it is equal. */
    int compare(String value) {
        TypeName type = column.type().name();
        try {
            if (type.isExactNumber()) {
                return new BigDecimal(value).compareTo(new BigDecimal(constant));
            }
            if (type.isApproximateNumber()) {
                // adding it makes of both zeros the one that they are worth
                return Double.compare(JavaValues.doubleOf(value) + 0.0, JavaValues.doubleOf(constant) + 0.0);
            }
        } catch (NumberFormatException e) {
            throw new UsageException("a condition compares column " + column.name() + " with " + constant
                    + ", and it holds '" + value + "'");
        }
        UnaryOperator<String> form = type.isTimed()
                ? ComparedValue::ordered
                : type == TypeName.CHARACTER ? String::stripTrailing : UnaryOperator.identity();
        return byCodePoints(form.apply(value), form.apply(constant));
    }

    /** Java compares halves of those beyond 16 bits, which come before others there. */
    private static int byCodePoints(String one, String other) {
        int both = Math.min(one.length(), other.length());
        for (int i = 0; i < both; i++) {
            char a = one.charAt(i);
            char b = other.charAt(i);
            if (a != b) {
                boolean large = Character.isSurrogate(a);
                return large == Character.isSurrogate(b) ? a - b : large ? 1 : -1;
            }
        }
        return one.length() - other.length();
    }

    /** A time as a text whose order is that of times. */
    private static String ordered(String time) {
        String bare = time.endsWith("Z") ? time.substring(0, time.length() - 1) : time;
        if (bare.indexOf('.') < 0) {
            return bare;
        }
        String shorter = ZEROS.matcher(bare).replaceFirst("$1");
        return shorter.endsWith(".") ? shorter.substring(0, shorter.length() - 1) : shorter;
    }

    /** What holds for all values that compare with it so, by what every system means the same; nothing where there is no such thing. */
    Optional<Restriction> restriction(String operator) {
        boolean shared =
                switch (column.type().name()) {
                    case SMALLINT, INTEGER, BIGINT, DECIMAL ->
                        PLAIN_NUMBER.matcher(constant).matches();
                    case DATE, TIMESTAMP -> true;
                    default -> false;
                };
        Optional<Comparison> comparison =
                switch (operator) {
                    case "=" -> Optional.of(Comparison.EQUAL);
                    case "<", "<=" -> Optional.of(Comparison.AT_MOST);
                    case ">", ">=" -> Optional.of(Comparison.AT_LEAST);
                    default -> Optional.empty();
                };
        return comparison.filter(c -> shared).map(c -> new Restriction.Compared(column.name(), c, constant));
    }
}
