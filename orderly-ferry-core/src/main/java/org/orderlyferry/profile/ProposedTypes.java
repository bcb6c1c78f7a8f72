package org.orderlyferry.profile;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Proposing;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.InvalidValueException;

/** Types of columns that have none, from all of their values. */
final class ProposedTypes {

    private static final int LONGEST_VARCHAR = 4_000;
    private static final int LARGEST_PRECISION = 38;
    private static final int USUAL_PRECISION = 18;
    private static final int[] LENGTHS = {10, 20, 50, 100, 200, 500, 1_000, 2_000, LONGEST_VARCHAR};
    private static final Pattern TELEPHONE = Pattern.compile(
            "(^|[^\\p{L}])(tel|phone|telephone|telefon|fax|mobile|mobil|cell|handy)([^\\p{L}]|$)" + "|phone|telefon",
            Pattern.UNICODE_CASE | Pattern.CASE_INSENSITIVE);
    /** The share of values of one kind from which on the others look like mistakes. */
    private static final double MOST = 0.75;

    private final TableProfile profile;
    private final Outline.Source source;
    private final List<ValueStyle> told;
    private final Proposing decided;
    private final List<Finding> findings;
    private final Map<String, ValueStyle> styles = new LinkedHashMap<>();

    /**
     * Of a table's columns.
     *
     * @param told how values are written in the file, where that is told
     * @param decided what a person has decided already
     * @param findings gets what is odd
     */
    ProposedTypes(
            TableProfile profile,
            Outline.Source source,
            List<ValueStyle> told,
            Proposing decided,
            List<Finding> findings) {
        this.profile = profile;
        this.source = source;
        this.told = told;
        this.decided = decided;
        this.findings = findings;
    }

    /** How the columns that were asked for write their values, where that isn't their value text. */
    Map<String, ValueStyle> styles() {
        return styles;
    }

    private void find(ColumnProfile column, String text) {
        findings.add(new Finding(
                FindingCode.VALUE_ODD, profile.table().name(), column.column().name(), text));
    }

    /** The type of a column, from its values. */
    LogicalType of(ColumnProfile column) {
        LogicalType given = column.column().type();
        long values = column.values() - column.count(ValueKind.BLANK);
        if (column.values() == 0) {
            find(column, "has no values, so its type isn't known");
            return given;
        }
        boolean open = source == Outline.Source.NAMES;
        if (!given.name().isText()) {
            return given.name() == TypeName.DECIMAL && !given.isSized() ? number(column) : given;
        }
        if (column.count(ValueKind.BLANK) > 0) {
            // a blank is a value, and of no other type than text
            mixed(column, values);
            return text(column);
        }
        if (column.count(ValueKind.DATE) == values) {
            return LogicalType.DATE;
        }
        if (column.count(ValueKind.TIMESTAMP) == values) {
            return LogicalType.of(TypeName.TIMESTAMP, seconds(column));
        }
        if (column.count(ValueKind.INSTANT) == values) {
            return LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, seconds(column));
        }
        if (column.count(ValueKind.TIME) == values) {
            return LogicalType.of(TypeName.TIME, seconds(column));
        }
        if (column.count(ValueKind.UUID) == values) {
            return LogicalType.UUID;
        }
        if (column.count(ValueKind.YEAR_LAST) == values) {
            return yearLast(column);
        }
        if (!open) {
            return text(column);
        }
        boolean twoWords = column.distinct() <= 2 && isRead(column, LogicalType.BOOLEAN);
        if (column.count(ValueKind.TRUTH) == values || twoWords) {
            return LogicalType.BOOLEAN;
        }
        return numberOrText(column, values);
    }

    private LogicalType yearLast(ColumnProfile column) {
        if (column.dates().isAmbiguous() && isRead(column, LogicalType.DATE)) {
            return LogicalType.DATE;
        }
        DateReadings dates = column.dates();
        if (dates.isAmbiguous()) {
            find(
                    column,
                    "holds dates such as " + dates.example() + " that can be read two ways, day first or month"
                            + " first; it stays text until dateFormat says which");
            return text(column);
        }
        Optional<String> pattern = dates.pattern();
        pattern.ifPresent(p -> {
            styles.put(column.column().name(), ValueStyle.PLAIN.withPattern(p));
            find(column, "holds dates written as " + p);
        });
        if (pattern.isEmpty()) {
            find(column, "holds dates of which some have the day first and some the month, so it stays text");
        }
        return pattern.isPresent() ? LogicalType.DATE : text(column);
    }

    /** Whether the examples, which are all where there are few, are values of a type in a way that was told. */
    private boolean isRead(ColumnProfile column, LogicalType type) {
        Optional<ValueStyle> style = ValueStyle.changing(type, told);
        if (style.isEmpty()) {
            return false;
        }
        try {
            for (String example : column.examples()) {
                style.get().read(example, type);
            }
            return true;
        } catch (InvalidValueException e) {
            return false;
        }
    }

    private LogicalType numberOrText(ColumnProfile column, long values) {
        long plain =
                column.count(ValueKind.WHOLE) + column.count(ValueKind.DECIMAL) + column.count(ValueKind.APPROXIMATE);
        if (plain == values) {
            if (TELEPHONE.matcher(column.column().name()).find()) {
                find(column, "stays text, since telephone numbers are no numbers");
                return text(column);
            }
            return number(column);
        }
        if (column.count(ValueKind.COMMA) > 0
                && column.count(ValueKind.COMMA) + column.count(ValueKind.WHOLE) == values) {
            styles.put(column.column().name(), ValueStyle.PLAIN.withDecimalChar(','));
            find(column, "holds numbers with a decimal comma");
            return decimal(column);
        }
        if (column.count(ValueKind.PADDED) > 0 && column.count(ValueKind.PADDED) + plain == values) {
            find(column, "stays text: a number would lose the zeros of '" + column.firstText(ValueKind.PADDED) + "'");
            return text(column);
        }
        if (column.otherDays() == values && isRead(column, LogicalType.DATE)) {
            return LogicalType.DATE;
        }
        mixed(column, values);
        words(column, values);
        return text(column);
    }

    /** Words for nothing, and forms of numbers and days, that keep a column text; and how to have them read. */
    private void words(ColumnProfile column, long values) {
        Map<String, Long> counts = column.words();
        long nothing = counts.values().stream().mapToLong(Long::longValue).sum();
        if (nothing > 0 && nothing < values) {
            find(
                    column,
                    "holds "
                            + String.join(
                                    ", ",
                                    counts.keySet().stream()
                                            .map(w -> "'" + w + "'")
                                            .toList())
                            + ", which may stand for nothing; the setting null says so (null="
                            + counts.keySet().iterator().next() + ")");
        }
        if (column.bareFractions() > 0) {
            find(
                    column,
                    "holds numbers without a digit in front of the point, such as " + column.firstBareFraction()
                            + "; as a column of type DECIMAL they are read");
        }
        if (column.otherDays() > 0 && column.otherDays() + nothing == values) {
            find(
                    column,
                    "holds days written as " + column.firstOtherDay() + "; the setting dateFormat says how ("
                            + column.otherDayFormat() + ")");
        }
    }

    private LogicalType number(ColumnProfile column) {
        long counted = Stream.of(ValueKind.WHOLE, ValueKind.DECIMAL, ValueKind.APPROXIMATE)
                .mapToLong(column::count)
                .sum();
        if (counted < column.values()) {
            // numbers of more digits than are looked at
            return LogicalType.of(TypeName.DECIMAL);
        }
        if (column.count(ValueKind.APPROXIMATE) > 0) {
            return approximate(column);
        }
        if (column.count(ValueKind.DECIMAL) > 0 || column.fractionDigits() > 0) {
            return decimal(column);
        }
        return column.fitsInteger() ? LogicalType.INTEGER : column.fitsBigint() ? LogicalType.BIGINT : decimal(column);
    }

    /** Floating point numbers, unless one of them has digits that these would lose. */
    private LogicalType approximate(ColumnProfile column) {
        if (column.fitsDouble()) {
            return LogicalType.DOUBLE;
        }
        int whole = column.spreadWhole();
        int precision = Math.max(1, whole) + column.spreadFraction();
        find(
                column,
                "holds numbers with an exponent, such as " + column.firstText(ValueKind.APPROXIMATE)
                        + ", and others that DOUBLE PRECISION would round; it becomes "
                        + (whole < 0 ? "text" : "DECIMAL"));
        if (whole < 0) {
            return text(column);
        }
        return precision > LARGEST_PRECISION
                ? LogicalType.of(TypeName.DECIMAL)
                : LogicalType.decimal(precision, column.spreadFraction());
    }

    /** With room for the next file's numbers: 18 digits in all, or 38; behind the point as many as were seen. */
    private LogicalType decimal(ColumnProfile column) {
        int scale = column.fractionDigits();
        int precision = Math.max(1, column.wholeDigits()) + scale;
        if (precision > LARGEST_PRECISION) {
            return LogicalType.of(TypeName.DECIMAL);
        }
        if (decided.tight()) {
            return LogicalType.decimal(precision, scale);
        }
        return LogicalType.decimal(precision <= USUAL_PRECISION ? USUAL_PRECISION : LARGEST_PRECISION, scale);
    }

    /** With room for the next file's texts: the next of a few round lengths that leaves a quarter free. */
    private LogicalType text(ColumnProfile column) {
        int longest = column.longest();
        if (longest > LONGEST_VARCHAR || longest == 0) {
            return LogicalType.CLOB;
        }
        if (decided.tight()) {
            return LogicalType.varchar(longest);
        }
        for (int length : LENGTHS) {
            if (longest + longest / 4 <= length) {
                return LogicalType.varchar(length);
            }
        }
        return LogicalType.varchar(LONGEST_VARCHAR);
    }

    private static int seconds(ColumnProfile column) {
        return column.secondDigits();
    }

    /** Tells of a few values that keep a column from being of another type. */
    private void mixed(ColumnProfile column, long values) {
        long numbers = 0;
        for (ValueKind kind : ValueKind.values()) {
            numbers += kind.isNumber() || kind == ValueKind.COMMA ? column.count(kind) : 0;
        }
        if (numbers >= values * MOST) {
            tell(column, numbers, "numbers", k -> k.isNumber() || k == ValueKind.COMMA);
            return;
        }
        for (ValueKind kind : ValueKind.values()) {
            boolean telling = kind != ValueKind.TEXT && kind != ValueKind.BLANK && column.count(kind) > 0;
            if (telling && column.count(kind) >= values * MOST) {
                tell(column, column.count(kind), kind.plural(), k -> k == kind);
                return;
            }
        }
    }

    private void tell(ColumnProfile column, long count, String plural, Predicate<ValueKind> belongs) {
        for (ValueKind other : ValueKind.values()) {
            if (!belongs.test(other) && column.count(other) > 0) {
                find(
                        column,
                        String.format(
                                Locale.ROOT,
                                "is mixed: %s (%,d) and %s (%,d), the first of these in line %d: '%s'",
                                plural,
                                count,
                                other.plural(),
                                column.count(other),
                                column.firstLine(other),
                                column.firstText(other)));
                return;
            }
        }
    }
}
