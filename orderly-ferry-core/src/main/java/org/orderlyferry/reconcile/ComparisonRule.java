package org.orderlyferry.reconcile;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Locale;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;

/**
 * What a person says doesn't count when two values are compared. It is asked only of values that differ by the usual rules,
 * so that what it makes disappear can be counted. Immutable.
 */
@NullMarked
public sealed interface ComparisonRule {

    /** Whether it speaks of a pair of columns of these types. */
    boolean isFor(LogicalType source, LogicalType target);

    /** A value with what doesn't count taken off; null for a null. */
    @Nullable
    String plain(@Nullable String value, LogicalType type);

    /** The rule as a person gives it, {@code places=2}. */
    String shown();

    /**
     * Reads a rule.
     *
     * @throws UsageException if it is none
     */
    static ComparisonRule parse(String text) {
        int equals = text.indexOf('=');
        String name = equals < 0 ? text : text.substring(0, equals);
        String value = equals < 0 ? "" : text.substring(equals + 1);
        return switch (name) {
            case "without" -> new Without(needed(text, value));
            case "places" -> new Places(number(text, value, 38));
            case "time-digits" -> new TimeDigits(number(text, value, 9));
            case "zone" -> zone(text, value);
            case "trailing-blanks" -> bare(text, value, new TrailingBlanks());
            case "any-case" -> bare(text, value, new AnyCase());
            case "null-as-empty" -> bare(text, value, new NullAsEmpty());
            default ->
                throw new UsageException("'" + text + "' is no rule; there are without=COLUMN, places=N, time-digits=N,"
                        + " zone=ZONE, trailing-blanks, any-case, null-as-empty");
        };
    }

    private static ComparisonRule bare(String text, String value, ComparisonRule rule) {
        if (!value.isEmpty() || text.endsWith("=")) {
            throw new UsageException("the rule " + rule.shown() + " takes no value, and has '" + value + "'");
        }
        return rule;
    }

    private static String needed(String text, String value) {
        if (value.isEmpty()) {
            throw new UsageException("the rule '" + text + "' needs a value behind an equals sign");
        }
        return value;
    }

    private static int number(String text, String value, int most) {
        if (!value.matches("[0-9]{1,2}") || Integer.parseInt(value) > most) {
            throw new UsageException("the rule '" + text + "' needs a number from 0 to " + most);
        }
        return Integer.parseInt(value);
    }

    private static ComparisonRule zone(String text, String value) {
        try {
            return new Zone(ZoneId.of(needed(text, value)));
        } catch (DateTimeException e) {
            throw new UsageException(
                    "the rule '" + text + "' needs a time zone, such as UTC, +02:00 or Europe/Vienna", e);
        }
    }

    /**
     * A column isn't compared at all.
     *
     * @param column its name at the source, in all tables; or {@code TABLE.COLUMN}
     */
    record Without(String column) implements ComparisonRule {
        @Override
        public boolean isFor(LogicalType source, LogicalType target) {
            return false;
        }

        @Override
        public @Nullable String plain(@Nullable String value, LogicalType type) {
            return value;
        }

        @Override
        public String shown() {
            return "without=" + column;
        }
    }

    /**
     * Numbers are rounded, halves up.
     *
     * @param places behind the point
     */
    record Places(int places) implements ComparisonRule {
        @Override
        public boolean isFor(LogicalType source, LogicalType target) {
            return isNumber(source) && isNumber(target);
        }

        private static boolean isNumber(LogicalType type) {
            return switch (type.name()) {
                case SMALLINT, INTEGER, BIGINT, DECIMAL, REAL, DOUBLE -> true;
                default -> false;
            };
        }

        @Override
        public @Nullable String plain(@Nullable String value, LogicalType type) {
            if (value == null || value.length() > 1000 || !value.matches("-?[0-9.]+(E-?[0-9]{1,3})?")) {
                return value;
            }
            BigDecimal rounded = new BigDecimal(value).setScale(places, RoundingMode.HALF_UP);
            return rounded.signum() == 0 ? "0" : rounded.toPlainString();
        }

        @Override
        public String shown() {
            return "places=" + places;
        }
    }

    /**
     * Times are cut off.
     *
     * @param digits of a second's fraction
     */
    record TimeDigits(int digits) implements ComparisonRule {
        @Override
        public boolean isFor(LogicalType source, LogicalType target) {
            return source.name().isTimed() && target.name().isTimed();
        }

        @Override
        public @Nullable String plain(@Nullable String value, LogicalType type) {
            int point = value == null ? -1 : value.indexOf('.');
            if (value == null || point < 0) {
                return value;
            }
            int end = point + 1;
            while (end < value.length() && Character.isDigit(value.charAt(end))) {
                end++;
            }
            String fraction = value.substring(point + 1, Math.min(end, point + 1 + digits))
                    .replaceAll("0+$", "");
            return value.substring(0, point) + (fraction.isEmpty() ? "" : "." + fraction) + value.substring(end);
        }

        @Override
        public String shown() {
            return "time-digits=" + digits;
        }
    }

    /**
     * A time without zone is of this zone, where it is compared with an instant.
     *
     * @param zone by its name or offset
     */
    record Zone(ZoneId zone) implements ComparisonRule {
        @Override
        public boolean isFor(LogicalType source, LogicalType target) {
            return source.name() == TypeName.TIMESTAMP && target.name() == TypeName.TIMESTAMP_WITH_TIME_ZONE
                    || source.name() == TypeName.TIMESTAMP_WITH_TIME_ZONE && target.name() == TypeName.TIMESTAMP;
        }

        @Override
        public @Nullable String plain(@Nullable String value, LogicalType type) {
            if (value == null || type.name() == TypeName.TIMESTAMP_WITH_TIME_ZONE) {
                return value == null || !value.endsWith("Z") ? value : value.substring(0, value.length() - 1);
            }
            try {
                String utc = LocalDateTime.parse(value)
                        .atZone(zone)
                        .withZoneSameInstant(ZoneOffset.UTC)
                        .toLocalDateTime()
                        .toString();
                return trimmed(utc);
            } catch (DateTimeException e) {
                // a year that Java's own calendar doesn't write so
                return value;
            }
        }

        /** As value text has it: with seconds, without zeros at the end of their fraction. */
        private static String trimmed(String text) {
            String full = text.length() == "2000-01-01T00:00".length() ? text + ":00" : text;
            return full.contains(".") ? full.replaceAll("0+$", "") : full;
        }

        @Override
        public String shown() {
            return "zone=" + zone;
        }
    }

    /** Blanks at the end of a text don't count. */
    record TrailingBlanks() implements ComparisonRule {
        @Override
        public boolean isFor(LogicalType source, LogicalType target) {
            return source.name().isText() && target.name().isText();
        }

        @Override
        public @Nullable String plain(@Nullable String value, LogicalType type) {
            return value == null ? null : value.stripTrailing();
        }

        @Override
        public String shown() {
            return "trailing-blanks";
        }
    }

    /** Large and small letters are the same. */
    record AnyCase() implements ComparisonRule {
        @Override
        public boolean isFor(LogicalType source, LogicalType target) {
            return source.name().isText() && target.name().isText();
        }

        @Override
        public @Nullable String plain(@Nullable String value, LogicalType type) {
            // both ways: some letters have one form in one direction only
            return value == null ? null : value.toUpperCase(Locale.ROOT).toLowerCase(Locale.ROOT);
        }

        @Override
        public String shown() {
            return "any-case";
        }
    }

    /** An empty text is the same as none. */
    record NullAsEmpty() implements ComparisonRule {
        @Override
        public boolean isFor(LogicalType source, LogicalType target) {
            return source.name().isText() && target.name().isText();
        }

        @Override
        public @Nullable String plain(@Nullable String value, LogicalType type) {
            return value == null ? "" : value;
        }

        @Override
        public String shown() {
            return "null-as-empty";
        }
    }
}
