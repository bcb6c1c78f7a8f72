package org.orderlyferry.reshape;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Pattern;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.problem.UsageException;

/** A table as it is, and as it is to be. */
final class ReshapedTable {

    private final TableDefinition before;
    private final TableDefinition after;
    /** The columns that stay, by their old names, and their new ones. */
    private final Map<String, String> kept = new LinkedHashMap<>();

    private final List<Condition> conditions = new ArrayList<>();
    private final List<Finding> findings = new ArrayList<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();
    private final Set<String> used = new LinkedHashSet<>();
    private final boolean numbered;

    ReshapedTable(TableDefinition before, Reshaping reshaping) {
        this.before = before;
        this.numbered = !reshaping.number().isEmpty();
        for (String name : chosen(reshaping)) {
            kept.put(
                    name,
                    first(reshaping.names(), name).orElseGet(() -> reshaping.isReadable() ? readable(name) : name));
        }
        if (kept.isEmpty()) {
            throw new UsageException(
                    "no column of table " + before.name() + " would be left; to leave out the table, name the others");
        }
        List<ColumnDefinition> columns = new ArrayList<>();
        kept.forEach((old, now) -> {
            ColumnDefinition column = before.column(old).orElseThrow();
            Optional<LogicalType> type = first(reshaping.types(), old);
            ColumnDefinition renamed = column.withName(now);
            columns.add(type.map(t -> retyped(renamed, t)).orElse(renamed));
        });
        TableDefinition looked = looked(reshaping);
        reshaping.conditions(before.name()).forEach(c -> conditions.add(ConditionParser.parse(c, looked)));
        TableName name = reshaping.name(before.name());
        TableDefinition.Builder table = before.toBuilder()
                .name(name)
                .columns(columns)
                .uniqueKeys(before.uniqueKeys().stream()
                        .filter(k -> keeps(k.columns()))
                        .map(this::renamed)
                        .toList())
                .primaryKey(before.primaryKey()
                        .filter(k -> keeps(k.columns()))
                        .map(this::renamed)
                        .orElse(null))
                .foreignKeys(before.foreignKeys().stream()
                        .filter(k -> keeps(k.columns()))
                        .map(this::renamed)
                        .toList());
        table.uniqueKeys(stay("unique key", table.build().uniqueKeys(), Key::shown, reshaping))
                .foreignKeys(stay("reference", table.build().foreignKeys(), ForeignKey::shown, reshaping))
                .checks(stay("check", before.checks(), CheckConstraint::name, reshaping))
                .indexes(stay("index", before.indexes(), IndexDefinition::shown, reshaping));
        if (!isWhole()) {
            // their expressions name columns by their old names
            drop(!before.checks().isEmpty(), "its checks");
            drop(!before.indexes().isEmpty(), "its indexes");
            drop(before.columns().stream().anyMatch(c -> c.generation().isPresent()), "the rules of its columns");
            table.checks(List.of()).indexes(List.of());
            table.columns(columns.stream()
                    .map(c -> c.toBuilder().generation(Optional.empty()).build())
                    .toList());
            drop(
                    before.primaryKey().filter(k -> !keeps(k.columns())).isPresent(),
                    "its primary key, of which a column is left out");
            drop(
                    before.foreignKeys().stream().anyMatch(k -> !keeps(k.columns())),
                    "references of which a column is left out");
        }
        if (numbered) {
            List<ColumnDefinition> all = new ArrayList<>(table.build().columns());
            all.add(
                    0,
                    ColumnDefinition.named(reshaping.number(), LogicalType.BIGINT)
                            .nullable(false)
                            .build());
            table.columns(all).primaryKey(reshaping.number());
        }
        this.after = table.build();
    }

    /** Those of one kind that aren't to be left behind. */
    private <T> List<T> stay(String kind, List<T> all, Function<T, String> name, Reshaping reshaping) {
        List<T> staying = new ArrayList<>();
        for (T one : all) {
            // each pattern is asked, since each must be known to be used
            boolean goes = reshaping.without().stream()
                            .filter(p -> fits(p, name.apply(one)))
                            .count()
                    > 0;
            if (goes) {
                leftBehind.add(new LeftBehind(kind, before.name() + "." + name.apply(one), "as it was told"));
            } else {
                staying.add(one);
            }
        }
        return staying;
    }

    /** What is left behind because a person said so. */
    List<LeftBehind> leftBehind() {
        return leftBehind;
    }

    /** A name as a reader would write it; one that another column has already stays as it is. */
    private String readable(String name) {
        String words = name.replaceAll("[_\\s]+", " ").strip();
        String heading = words.isEmpty() ? name : Character.toUpperCase(words.charAt(0)) + words.substring(1);
        return kept.containsValue(heading) || before.column(heading).isPresent() ? name : heading;
    }

    private static ColumnDefinition retyped(ColumnDefinition column, LogicalType type) {
        // what its own system called it, and filled it with, was of the old type
        return column.toBuilder()
                .identity(Optional.empty())
                .generation(Optional.empty())
                .enumeration(Optional.empty())
                .sourceType("")
                .build()
                .withType(type);
    }

    private void drop(boolean any, String what) {
        if (any) {
            findings.add(Finding.of(
                    FindingCode.DEFINITION_DROPPED,
                    before.name(),
                    "comes without " + what + ", since its columns are others"));
        }
    }

    private List<String> chosen(Reshaping reshaping) {
        List<String> all = before.columnNames();
        List<String> chosen = new ArrayList<>();
        List<String> mine = reshaping.only().stream()
                .filter(p -> all.stream().anyMatch(n -> fits(p, n)))
                .toList();
        if (mine.isEmpty()) {
            chosen.addAll(all);
        }
        for (String pattern : mine) {
            all.stream().filter(n -> fits(pattern, n) && !chosen.contains(n)).forEach(chosen::add);
        }
        chosen.removeIf(n -> reshaping.skipped().stream().anyMatch(p -> fits(p, n)));
        return chosen;
    }

    private <T> Optional<T> first(Map<String, T> byPattern, String column) {
        return byPattern.entrySet().stream()
                .filter(e -> fits(e.getKey(), column))
                .map(Map.Entry::getValue)
                .findFirst();
    }

    /** Whether a pattern names a column of this table; remembers that it did. */
    private boolean fits(String pattern, String column) {
        boolean fits = matches(pattern, column) || matches(pattern, before.name() + "." + column);
        if (fits) {
            used.add(pattern);
        }
        return fits;
    }

    private static boolean matches(String pattern, String name) {
        StringBuilder regex = new StringBuilder();
        int[] points = pattern.codePoints().toArray();
        for (int i = 0; i < points.length; i++) {
            int c = points[i];
            boolean escaped = c == '\\' && i + 1 < points.length && "*\\".indexOf(points[i + 1]) >= 0;
            if (escaped) {
                i++;
            }
            // by whole characters: half of one that takes two units of UTF-16 stands for nothing
            regex.append(c == '*' ? ".*" : Pattern.quote(Character.toString(points[i])));
        }
        return Pattern.compile(regex.toString(), Pattern.DOTALL).matcher(name).matches();
    }

    private boolean keeps(List<String> columns) {
        return kept.keySet().containsAll(columns);
    }

    /** Whether all columns stay, by their names. */
    private boolean isWhole() {
        return kept.size() == before.columns().size()
                && kept.entrySet().stream().allMatch(e -> e.getKey().equals(e.getValue()));
    }

    private List<String> renamed(List<String> columns) {
        return columns.stream().map(kept::get).toList();
    }

    private Key renamed(Key key) {
        return new Key(key.name(), renamed(key.columns()));
    }

    private ForeignKey renamed(ForeignKey key) {
        return new ForeignKey(
                key.name(),
                renamed(key.columns()),
                key.target(),
                key.targetColumns(),
                key.onUpdate(),
                key.onDelete(),
                key.deferrability());
    }

    TableDefinition before() {
        return before;
    }

    TableDefinition after() {
        return after;
    }

    /** Old names of columns by their new names. */
    String oldName(String now) {
        return kept.entrySet().stream()
                .filter(e -> e.getValue().equals(now))
                .map(Map.Entry::getKey)
                .findFirst()
                .orElse("");
    }

    /** What a column was called; one that is left out keeps its name. */
    String formerly(String column) {
        return kept.containsValue(column) ? oldName(column) : column;
    }

    /** Whether columns are of types whose values are in the order of those that they are made of, and are written alike. */
    boolean keepsOrder(List<String> columns) {
        return columns.stream().allMatch(c -> {
            Optional<TypeName> now = after.column(c).map(d -> d.type().name());
            Optional<TypeName> then =
                    before.column(formerly(c)).map(d -> d.type().name());
            return now.isEmpty()
                    || now.equals(then)
                    || now.get().isExactNumber()
                            && then.filter(TypeName::isExactNumber).isPresent();
        });
    }

    /** A range of what there is, by the names of what is to be; a column that is left out keeps its name. */
    KeyRange afterwards(KeyRange range) {
        if (range.standing()) {
            return range;
        }
        return new KeyRange(
                range.columns().stream().map(c -> kept.getOrDefault(c, c)).toList(),
                range.from(),
                range.to(),
                range.nulls());
    }

    /** A range of what is to be, by the names of what there is. */
    KeyRange formerly(KeyRange range) {
        if (range.standing()) {
            return range;
        }
        return new KeyRange(
                range.columns().stream().map(this::formerly).toList(), range.from(), range.to(), range.nulls());
    }

    Map<String, String> kept() {
        return kept;
    }

    /** Whether all records come with all their values, in their order and of their types. */
    boolean keepsValues() {
        return conditions.isEmpty()
                && !numbered
                && List.copyOf(kept.keySet()).equals(before.columnNames())
                && types(before).equals(types(after));
    }

    /** Whether its records are just those that there are, by the same names. */
    boolean isUntouched() {
        return keepsValues() && isWhole() && after.name().equals(before.name());
    }

    private static List<LogicalType> types(TableDefinition table) {
        return table.columns().stream().map(ColumnDefinition::type).toList();
    }

    List<Condition> conditions() {
        return conditions;
    }

    /** As conditions see it: by its own names, and by the types that are told. */
    private TableDefinition looked(Reshaping reshaping) {
        return before.toBuilder()
                .columns(before.columns().stream()
                        .map(c -> first(reshaping.types(), c.name())
                                .filter(t -> kept.containsKey(c.name()))
                                .map(t -> retyped(c, t))
                                .orElse(c))
                        .toList())
                .build();
    }

    /** What all records keep that its conditions hold for, where whoever gives them may know it: of columns as they are. */
    Optional<Restriction> restriction() {
        List<Restriction> all = conditions.stream()
                .flatMap(c -> c.restriction(this::isAsItIs).stream())
                .toList();
        return all.isEmpty() ? Optional.empty() : Optional.of(new Restriction.Several(all, true));
    }

    private boolean isAsItIs(String column) {
        LogicalType type = before.column(column).orElseThrow().type();
        return after.column(kept.getOrDefault(column, ""))
                .map(c -> c.type().equals(type))
                .orElse(true);
    }

    List<Finding> findings() {
        return findings;
    }

    /** What was named and is of this table. */
    Set<String> used() {
        return used;
    }

    boolean isNumbered() {
        return numbered;
    }
}
