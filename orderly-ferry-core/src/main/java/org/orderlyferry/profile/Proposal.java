package org.orderlyferry.profile;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Proposing;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.text.InvalidValueException;

/**
 * Definitions for a table that has none, from all of its values.
 *
 * @param table the table with types and a key
 * @param styles how columns write their values where that isn't their value text
 * @param findings what is odd, and what can't be decided
 * @param keys all columns, or pairs of them, that are unique and never null
 */
public record Proposal(
        TableDefinition table, Map<String, ValueStyle> styles, List<Finding> findings, List<List<String>> keys) {

    private static final int LONGEST_VARCHAR = 4_000;
    private static final int LONGEST_KEY = 200;
    private static final int LARGEST_PRECISION = 38;
    private static final int USUAL_PRECISION = 18;
    private static final int[] LENGTHS = {10, 20, 50, 100, 200, 500, 1_000, 2_000, LONGEST_VARCHAR};
    private static final Pattern TELEPHONE = Pattern.compile(
            "(^|[^\\p{L}])(tel|phone|telephone|telefon|fax|mobile|mobil|cell|handy)([^\\p{L}]|$)" + "|phone|telefon",
            Pattern.UNICODE_CASE | Pattern.CASE_INSENSITIVE);
    private static final Pattern KEY_NAME = Pattern.compile(
            "(?i)(^|[^\\p{L}])(id|key|code|no|nr|number|uuid|guid|ref|isbn)$|\\p{Ll}(Id|ID|Key|Code|No|Nr|Number)$");
    /** What is measured, counted or told of somebody is unique only by chance. */
    private static final Pattern MEASURE_NAME = Pattern.compile(
            "(?i)(name|title|amount|price|total|sum|count|size|width|height|length|depth|weight|mass|area|latitude|longitude"
                    + "|lat|lon|lng|temp|rate|ratio|percent|score|value|age|year|date|time|population|distance|speed|note|remark)");

    private static final Pattern CODE = Pattern.compile("(?=.*[0-9])[\\p{L}0-9][\\p{L}0-9 ./:_#-]{0,39}");
    /** The share of values of one kind from which on the others look like mistakes. */
    private static final double MOST = 0.75;

    private static final Set<TypeName> KEY_TYPES =
            Set.of(TypeName.SMALLINT, TypeName.INTEGER, TypeName.BIGINT, TypeName.VARCHAR, TypeName.UUID);

    /**
     * Proposes definitions.
     *
     * @param told how values are written in the file, where that is told
     */
    public static Proposal of(TableProfile profile, Outline.Source source, List<ValueStyle> told) {
        return of(profile, source, told, Proposing.DEFAULT);
    }

    /** Proposes definitions, as far as a person hasn't decided already. */
    public static Proposal of(TableProfile profile, Outline.Source source, List<ValueStyle> told, Proposing decided) {
        return new Making(profile, source, told, decided).proposal();
    }

    /** A proposal in the making. */
    private static final class Making {

        private final TableProfile profile;
        private final Outline.Source source;
        private final List<ValueStyle> told;
        private final Proposing decided;
        private final Map<String, ValueStyle> styles = new LinkedHashMap<>();
        private final List<Finding> findings = new ArrayList<>();

        Making(TableProfile profile, Outline.Source source, List<ValueStyle> told, Proposing decided) {
            this.told = told;
            this.decided = decided;
            this.profile = profile;
            this.source = source;
            findings.addAll(profile.findings());
        }

        Proposal proposal() {
            List<ColumnDefinition> columns = new ArrayList<>();
            for (ColumnProfile column : profile.columns()) {
                columns.add(column.column().withType(type(column)));
            }
            List<List<String>> keys = profile.candidateKeys();
            TableDefinition.Builder table = profile.table().toBuilder().columns(columns);
            Optional<List<String>> key = key(keys, columns);
            key.ifPresent(names -> {
                table.columns(columns.stream()
                        .map(c -> names.contains(c.name())
                                ? c.toBuilder().nullable(false).build()
                                : c)
                        .toList());
                table.primaryKey(new Key("", names));
            });
            twice();
            for (ColumnProfile column : profile.columns()) {
                if (column.nulls() == 0 && column.isUnknown()) {
                    find(column, "has too many different values to find out here whether one comes twice");
                }
            }
            return new Proposal(table.build(), styles, findings, keys);
        }

        private void find(ColumnProfile column, String text) {
            findings.add(new Finding(
                    FindingCode.VALUE_ODD,
                    profile.table().name(),
                    column.column().name(),
                    text));
        }

        private LogicalType type(ColumnProfile column) {
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
            long plain = column.count(ValueKind.WHOLE)
                    + column.count(ValueKind.DECIMAL)
                    + column.count(ValueKind.APPROXIMATE);
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
                find(
                        column,
                        "stays text: a number would lose the zeros of '" + column.firstText(ValueKind.PADDED) + "'");
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
            if (column.count(ValueKind.APPROXIMATE) > 0) {
                return approximate(column);
            }
            if (column.count(ValueKind.DECIMAL) > 0 || column.fractionDigits() > 0) {
                return decimal(column);
            }
            return column.fitsInteger()
                    ? LogicalType.INTEGER
                    : column.fitsBigint() ? LogicalType.BIGINT : decimal(column);
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

        /**
         * The candidate that a person would take, if there is one: values that are unique in one file may be so by chance,
         * and a primary key that isn't one turns the next file's good records away. So a key has a key's name, or stands in
         * front and holds whole numbers or codes that nobody measures.
         */
        private Optional<List<String>> key(List<List<String>> keys, List<ColumnDefinition> columns) {
            if (decided.key().isPresent()) {
                return told(decided.key().get(), columns);
            }
            if (profile.rows() < 2) {
                return Optional.empty();
            }
            List<List<String>> fitting = keys.stream()
                    .filter(k -> k.stream().allMatch(n -> canBeKey(n, columns) || k.size() > 1 && isDate(n, columns)))
                    .toList();
            Optional<List<String>> named = fitting.stream()
                    .filter(k -> k.size() == 1 && isKeyName(k.get(0)))
                    .findFirst();
            Optional<List<String>> taken = named.or(() -> fitting.stream()
                            .filter(k ->
                                    k.size() == 1 && isInFront(k.get(0), columns) && looksLikeKey(k.get(0), columns))
                            .findFirst())
                    .or(() -> fitting.stream()
                            .filter(k -> k.size() > 1
                                    && fitting.size() == 1
                                    && k.stream().anyMatch(this::isKeyName))
                            .findFirst());
            if (taken.isEmpty() && !fitting.isEmpty()) {
                find("no primary key is taken, since what is unique here may be so by chance ("
                        + fitting.stream()
                                .limit(3)
                                .map(k -> String.join(" + ", k))
                                .collect(Collectors.joining("; "))
                        + "); a key can be told");
            }
            return taken;
        }

        /** The columns that a person has named, whatever the values are: a load shows whether they are a key. */
        private Optional<List<String>> told(List<String> names, List<ColumnDefinition> columns) {
            for (String name : names) {
                if (columns.stream().noneMatch(c -> c.name().equals(name))) {
                    throw new UsageException("the key's column " + name + " isn't one of table "
                            + profile.table().name());
                }
            }
            return names.isEmpty() ? Optional.empty() : Optional.of(names);
        }

        private void find(String text) {
            findings.add(Finding.of(FindingCode.VALUE_ODD, profile.table().name(), text));
        }

        /** A name that people give to keys: id, code, number, or one that ends so. */
        private boolean isKeyName(String name) {
            String table = profile.table().name().name().toLowerCase(Locale.ROOT);
            String lower = name.toLowerCase(Locale.ROOT);
            return lower.equals(table)
                    || lower.equals(table + "id")
                    || KEY_NAME.matcher(name).find();
        }

        private static boolean isInFront(String name, List<ColumnDefinition> columns) {
            return columns.get(0).name().equals(name);
        }

        /** Whole numbers, identifiers, or short codes with digits in them; no measure, no day, and no name of a person. */
        private boolean looksLikeKey(String name, List<ColumnDefinition> columns) {
            TypeName type = columns.stream()
                    .filter(c -> c.name().equals(name))
                    .findFirst()
                    .orElseThrow()
                    .type()
                    .name();
            if (MEASURE_NAME.matcher(name).find()) {
                return false;
            }
            if (!type.isText()) {
                return true;
            }
            return profile.column(name).orElseThrow().examples().stream()
                    .allMatch(e -> CODE.matcher(e).matches());
        }

        private static boolean canBeKey(String name, List<ColumnDefinition> columns) {
            return columns.stream()
                    .filter(c -> c.name().equals(name))
                    .anyMatch(c -> KEY_TYPES.contains(c.type().name())
                            && (!c.type().name().isText() || c.type().size() <= LONGEST_KEY));
        }

        /** A day, or a moment, may be one part of a key among others. */
        private static boolean isDate(String name, List<ColumnDefinition> columns) {
            return columns.stream()
                    .filter(c -> c.name().equals(name))
                    .anyMatch(c -> c.type().name() == TypeName.DATE || c.type().name() == TypeName.TIMESTAMP);
        }

        /** Tells of values that come twice in what looks like a key by its name. */
        private void twice() {
            String table = profile.table().name().name().toLowerCase(Locale.ROOT);
            Set<String> names = Set.of("id", table + "_id", table + "id", table + " id");
            for (ColumnProfile column : profile.columns()) {
                if (names.contains(column.column().name().toLowerCase(Locale.ROOT))
                        && column.distincts().firstTwice() > 0) {
                    find(
                            column,
                            "looks like a key, but a value comes twice, the second time in line "
                                    + column.distincts().firstTwice());
                }
            }
        }
    }
}
