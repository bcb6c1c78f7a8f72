package org.orderlyferry.view;

import com.fasterxml.jackson.core.JsonToken;
import java.math.BigDecimal;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** What the values at one path are, so far as they were looked at. */
final class PathStats {

    /** Texts up to so many characters are bounded; longer ones are of any length. */
    private static final int[] BOUNDS = {255, 4000};

    /** More digits than that no two systems hold alike. */
    private static final int MOST_DIGITS = 38;

    private static final int MOMENT_DIGITS = 3;
    private static final int ID_LENGTH = 24;

    /** A moment that every system has: systems begin with the year 1. */
    private static final Pattern MOMENT =
            Pattern.compile("(?!0000)\\d{4}-\\d\\d-\\d\\dT\\d\\d:\\d\\d:\\d\\d(\\.\\d{1,3})?Z");

    private static final Map<String, Kind> WRAPPERS = Map.of(
            "$numberInt", Kind.WHOLE,
            "$numberLong", Kind.WHOLE,
            "$numberDecimal", Kind.EXACT,
            "$date", Kind.MOMENT,
            "$oid", Kind.ID,
            "$uuid", Kind.UUID);

    private enum Kind {
        TEXT,
        WHOLE,
        /** A number with a fraction, as binary floating point has it. */
        FLOATING,
        EXACT,
        TRUTH,
        MOMENT,
        ID,
        UUID,
        /** What only JSON has. */
        OTHER
    }

    private final Set<Kind> kinds = EnumSet.noneOf(Kind.class);
    private final Set<String> wrappers = new TreeSet<>();
    private boolean plain;
    private long values;
    private int longest;
    private int integerDigits;
    private int fractionDigits;
    private boolean exactAsDouble = true;
    private boolean fitsInt = true;
    private boolean fitsLong = true;

    /** Whether values of a wrapper have a type of their own. */
    static boolean isKnown(String wrapper) {
        return WRAPPERS.containsKey(wrapper);
    }

    /** Takes a value that stands there as it is, and isn't null. */
    void add(JsonToken token, String text) {
        plain = true;
        values++;
        switch (token) {
            case VALUE_STRING -> {
                kinds.add(Kind.TEXT);
                longest = Math.max(longest, text.length());
            }
            case VALUE_TRUE, VALUE_FALSE -> kinds.add(Kind.TRUTH);
            case VALUE_NUMBER_INT -> number(Kind.WHOLE, text);
            default -> number(Kind.FLOATING, text);
        }
    }

    /** Takes what has no type but JSON. */
    void addOther() {
        plain = true;
        values++;
        kinds.add(Kind.OTHER);
    }

    /** Takes what stands in a typed wrapper. */
    void add(String wrapper, String text) {
        values++;
        wrappers.add(wrapper);
        Kind kind = WRAPPERS.get(wrapper);
        switch (kind) {
            case WHOLE, EXACT -> number(kind, text);
            case MOMENT -> kinds.add(MOMENT.matcher(text).matches() ? kind : Kind.OTHER);
            default -> kinds.add(kind);
        }
    }

    private void number(Kind kind, String text) {
        kinds.add(kind);
        try {
            BigDecimal number = new BigDecimal(text);
            integerDigits = Math.max(integerDigits, Math.max(1, digits(number)));
            fractionDigits = Math.max(fractionDigits, Math.max(0, scale(number)));
            double rounded = number.doubleValue();
            exactAsDouble &= Double.isFinite(rounded) && sameAs(number, rounded);
            if (kind != Kind.EXACT && kind != Kind.FLOATING) {
                fitsInt &= digits(number) < 19 && number.longValue() == (int) number.longValue();
                fitsLong &= digits(number) < 19 || isLong(text);
            }
        } catch (NumberFormatException e) {
            // not a number, or infinite
            kinds.add(Kind.OTHER);
        }
    }

    /** Digits in front of the point, without writing any of them out: a few characters can stand for a milliard. */
    private static int digits(BigDecimal number) {
        return number.signum() == 0 ? 1 : clamped((long) number.precision() - number.scale());
    }

    private static int scale(BigDecimal number) {
        return number.signum() == 0 ? 0 : clamped(number.scale());
    }

    private static int clamped(long digits) {
        return (int) Math.max(-MOST_DIGITS - 1, Math.min(digits, MOST_DIGITS + 1));
    }

    private static boolean sameAs(BigDecimal number, double rounded) {
        return new BigDecimal(Double.toString(rounded)).compareTo(number) == 0;
    }

    private static boolean isLong(String text) {
        try {
            Long.parseLong(text);
            return true;
        } catch (NumberFormatException e) {
            return false;
        }
    }

    /** In how many documents there is a value that isn't null. */
    long values() {
        return values;
    }

    /** The wrappers that values stand in. */
    List<String> wrappers() {
        return List.copyOf(wrappers);
    }

    /** Whether values stand there without a wrapper. */
    boolean isPlain() {
        return plain;
    }

    /** The narrowest type that has all values, so that they can be told from each other and computed with. */
    LogicalType type() {
        if (kinds.size() == 1 && !wrappers.contains("$numberDecimal")) {
            Kind only = kinds.iterator().next();
            switch (only) {
                case TEXT -> {
                    return text();
                }
                case TRUTH -> {
                    return LogicalType.BOOLEAN;
                }
                case MOMENT -> {
                    return LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, MOMENT_DIGITS);
                }
                case ID -> {
                    return LogicalType.of(TypeName.CHARACTER, ID_LENGTH);
                }
                case UUID -> {
                    return LogicalType.UUID;
                }
                default -> {
                    // a number
                }
            }
        }
        return number().orElse(LogicalType.JSON);
    }

    private Optional<LogicalType> number() {
        if (kinds.isEmpty()
                || !EnumSet.of(Kind.WHOLE, Kind.FLOATING, Kind.EXACT).containsAll(kinds)) {
            return Optional.empty();
        }
        if (kinds.equals(EnumSet.of(Kind.WHOLE))) {
            if (fitsLong) {
                return Optional.of(fitsInt && wrappers.isEmpty() ? LogicalType.INTEGER : LogicalType.BIGINT);
            }
        } else if (!kinds.contains(Kind.EXACT) && exactAsDouble) {
            return Optional.of(LogicalType.DOUBLE);
        }
        return integerDigits + fractionDigits <= MOST_DIGITS
                ? Optional.of(LogicalType.decimal(integerDigits + fractionDigits, fractionDigits))
                : Optional.empty();
    }

    private LogicalType text() {
        for (int bound : BOUNDS) {
            if (longest <= bound) {
                return LogicalType.varchar(bound);
            }
        }
        return LogicalType.of(TypeName.CLOB);
    }
}
