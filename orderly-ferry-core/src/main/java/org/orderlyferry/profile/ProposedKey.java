package org.orderlyferry.profile;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.orderlyferry.format.Proposing;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;

/** A primary key for a table that has none, where one of its unique columns looks like one to a person. */
final class ProposedKey {

    private static final int LONGEST_KEY = 200;
    private static final Pattern KEY_NAME = Pattern.compile(
            "(?i)(^|[^\\p{L}])(id|key|code|no|nr|number|uuid|guid|ref|isbn)$|\\p{Ll}(Id|ID|Key|Code|No|Nr|Number)$");
    /** What is measured, counted or told of somebody is unique only by chance. */
    private static final Pattern MEASURE_NAME = Pattern.compile(
            "(?i)(name|title|amount|price|total|sum|count|size|width|height|length|depth|weight|mass|area|latitude|longitude"
                    + "|lat|lon|lng|temp|rate|ratio|percent|score|value|age|year|date|time|population|distance|speed|note|remark)");

    private static final Pattern CODE = Pattern.compile("(?=.*[0-9])[\\p{L}0-9][\\p{L}0-9 ./:_#-]{0,39}");
    private static final Set<TypeName> KEY_TYPES =
            Set.of(TypeName.SMALLINT, TypeName.INTEGER, TypeName.BIGINT, TypeName.VARCHAR, TypeName.UUID);

    private final TableProfile profile;
    private final Proposing decided;
    private final List<Finding> findings;

    ProposedKey(TableProfile profile, Proposing decided, List<Finding> findings) {
        this.profile = profile;
        this.decided = decided;
        this.findings = findings;
    }

    private void find(ColumnProfile column, String text) {
        findings.add(new Finding(
                FindingCode.VALUE_ODD, profile.table().name(), column.column().name(), text));
    }

    /**
     * The candidate that a person would take, if there is one: values that are unique in one file may be so by chance,
     * and a primary key that isn't one turns the next file's good records away. So a key has a key's name, or stands in
     * front and holds whole numbers or codes that nobody measures.
     */
    Optional<List<String>> of(List<List<String>> keys, List<ColumnDefinition> columns) {
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
                        .filter(k -> k.size() == 1 && isInFront(k.get(0), columns) && looksLikeKey(k.get(0), columns))
                        .findFirst())
                .or(() -> fitting.stream()
                        .filter(k -> k.size() > 1
                                && fitting.size() == 1
                                && k.stream().anyMatch(this::isKeyName))
                        .findFirst());
        if (taken.isEmpty() && !fitting.isEmpty()) {
            find("no primary key is taken, since what is unique here may be so by chance ("
                    + fitting.stream().limit(3).map(k -> String.join(" + ", k)).collect(Collectors.joining("; "))
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
    void twice() {
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
        for (ColumnProfile column : profile.columns()) {
            if (column.nulls() == 0 && column.isUnknown()) {
                find(column, "has too many different values to find out here whether one comes twice");
            }
        }
    }
}
