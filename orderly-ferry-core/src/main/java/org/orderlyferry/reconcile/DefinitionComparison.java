package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.BiPredicate;
import java.util.function.Function;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.reconcile.DefinitionDifference.Part;

/**
 * Holds a table's definition at the source, under the names that it has at the target, against the target's. What differs
 * and is just what a load would make is forced by the target's system; all else somebody has made otherwise, or lost.
 * Constraints are told apart by what they say; their names don't count. An expression is the same where it is what a load
 * would make of it: every system writes it in its own way.
 */
final class DefinitionComparison {

    private final TableName name;
    private final TableDefinition original;
    private final TableDefinition source;
    private final TableDefinition target;
    private final TableDefinition made;
    private final Function<LogicalType, String> typeName;
    private final List<DefinitionDifference> differences = new ArrayList<>();

    /**
     * Of one table.
     *
     * @param original the source's table
     * @param source the same under the target's names
     * @param target the target's, with expressions in a plain form
     * @param made what a load would make, in the same form
     * @param typeName what the target calls a type
     */
    DefinitionComparison(
            TableDefinition original,
            TableDefinition source,
            TableDefinition target,
            TableDefinition made,
            Function<LogicalType, String> typeName) {
        this.name = original.name();
        this.original = original;
        this.source = source;
        this.target = target;
        this.made = made;
        this.typeName = typeName;
    }

    List<DefinitionDifference> differences() {
        columns();
        part("", Part.PRIMARY_KEY, key(source.primaryKey()), key(target.primaryKey()), key(made.primaryKey()));
        sets(Part.UNIQUE_KEY, DefinitionComparison::uniques);
        sets(Part.REFERENCE, DefinitionComparison::references);
        sets(Part.CHECK, checks(made), checks(target), checks(made));
        sets(Part.INDEX, indexes(carriedIndexes()), indexes(target), indexes(made));
        part("", Part.COMMENT, source.comment(), target.comment(), made.comment());
        return differences;
    }

    private void add(String column, Part part, String atSource, String atTarget, boolean forced) {
        differences.add(new DefinitionDifference(name, column, part, atSource, atTarget, forced));
    }

    private void part(String column, Part part, String atSource, String atTarget, String expected) {
        if (!atSource.equals(atTarget)) {
            add(column, part, atSource, atTarget, atTarget.equals(expected));
        }
    }

    private void columns() {
        List<String> paired = new ArrayList<>();
        for (int i = 0; i < source.columns().size(); i++) {
            ColumnDefinition column = source.columns().get(i);
            String shown = original.columns().get(i).name();
            Optional<ColumnDefinition> there = found(target, column.name());
            if (there.isEmpty()) {
                add(
                        shown,
                        Part.COLUMN,
                        type(column),
                        "",
                        found(made, column.name()).isEmpty());
            } else {
                paired.add(there.get().name());
                column(shown, column, there.get(), found(made, column.name()).orElse(column));
            }
        }
        for (ColumnDefinition column : target.columns()) {
            if (!paired.contains(column.name())) {
                add(
                        column.name(),
                        Part.COLUMN,
                        "",
                        type(column),
                        found(made, column.name()).isPresent());
            }
        }
        List<String> order = new ArrayList<>(target.columnNames());
        order.retainAll(paired);
        part(
                "",
                Part.ORDER,
                String.join(", ", paired),
                String.join(", ", order),
                String.join(", ", made.columnNames()));
    }

    /** As it is called, or, where nothing is, in any case. */
    private static Optional<ColumnDefinition> found(TableDefinition table, String column) {
        return table.column(column).or(() -> table.columns().stream()
                .filter(c -> c.name().equalsIgnoreCase(column))
                .findFirst());
    }

    /** Whether a type of times that says nothing of fractions of a second has got as many as the system gives it. */
    private static boolean isByDefault(LogicalType said, LogicalType held) {
        return said.name() == held.name()
                && !said.isSized()
                && (said.name() == TypeName.TIME
                        || said.name() == TypeName.TIMESTAMP
                        || said.name() == TypeName.TIMESTAMP_WITH_TIME_ZONE);
    }

    private void column(String shown, ColumnDefinition at, ColumnDefinition to, ColumnDefinition expected) {
        // one system may have several types that hold the same
        boolean own =
                source.system().equals(target.system()) && !source.system().isEmpty();
        boolean same = at.type().equals(to.type()) && (!own || at.sourceType().equalsIgnoreCase(to.sourceType()));
        if (!same) {
            boolean forced = to.sourceType().equalsIgnoreCase(expected.sourceType())
                            && !to.sourceType().isEmpty()
                    || !own && typeName.apply(to.type()).equals(typeName.apply(expected.type()))
                    || !own && isByDefault(expected.type(), to.type());
            add(shown, Part.TYPE, type(at), type(to), forced);
        }
        // what a primary key holds can't be null, but for a system in which it can
        boolean inKey = made.primaryKey()
                .filter(k -> k.columns().contains(expected.name()))
                .isPresent();
        ColumnDefinition strict =
                inKey && !to.nullable() ? expected.toBuilder().nullable(false).build() : expected;
        one(shown, Part.NULLABILITY, at, to, strict, c -> c.nullable() ? "allowed" : "not allowed", Objects::equals);
        carried(shown, Part.DEFAULT, at, to, expected, c -> c.defaultValue()
                .map(DefinitionComparison::shown)
                .orElse(""));
        one(shown, Part.COUNTER, at, to, expected, DefinitionComparison::counter, Objects::equals);
        at.identity().ifPresent(from -> to.identity()
                .filter(i -> i.next() != from.next())
                // further on is as good: no value comes twice
                .ifPresent(i -> add(
                        shown,
                        Part.NEXT_VALUE,
                        Long.toString(from.next()),
                        Long.toString(i.next()),
                        from.increment() > 0 ? i.next() > from.next() : i.next() < from.next())));
        carried(shown, Part.COMPUTED, at, to, expected, c -> c.generation()
                .map(g -> plain(g.expression()) + (g.stored() ? ", stored" : ""))
                .orElse(""));
        one(
                shown,
                Part.VALUES,
                at,
                to,
                expected,
                c -> c.enumeration().map(e -> String.join(", ", e.values())).orElse(""),
                Objects::equals);
        one(shown, Part.COLLATION, at, to, expected, ColumnDefinition::collation, String::equalsIgnoreCase);
        one(shown, Part.COMMENT, at, to, expected, ColumnDefinition::comment, Objects::equals);
    }

    private void one(
            String shown,
            Part part,
            ColumnDefinition at,
            ColumnDefinition to,
            ColumnDefinition expected,
            Function<ColumnDefinition, String> of,
            BiPredicate<String, String> same) {
        String one = of.apply(at);
        String other = of.apply(to);
        if (!same.test(one, other)) {
            add(shown, part, one, other, same.test(other, of.apply(expected)));
        }
    }

    private void carried(
            String shown,
            Part part,
            ColumnDefinition at,
            ColumnDefinition to,
            ColumnDefinition expected,
            Function<ColumnDefinition, String> of) {
        String there = of.apply(to);
        if (!there.equals(of.apply(expected))) {
            add(shown, part, of.apply(at), there, false);
        } else if (there.isEmpty() && !of.apply(at).isEmpty()) {
            add(shown, part, of.apply(at), "", true);
        }
    }

    private static String type(ColumnDefinition column) {
        return column.sourceType().isEmpty() ? column.type().toString() : column.sourceType();
    }

    private static String shown(ColumnDefault value) {
        if (value instanceof ColumnDefault.Expression expression) {
            return plain(expression.text());
        }
        return "'" + ((ColumnDefault.Literal) value).text() + "'";
    }

    private static String counter(ColumnDefinition column) {
        return column.identity()
                .map(i -> (i.always() ? "always, " : "") + "from " + i.start() + " by " + i.increment())
                .orElse("");
    }

    /** An expression without what every system writes otherwise: blanks, and brackets around all of it. */
    private static String plain(SqlText text) {
        String sql = text.sql().strip().replaceAll("\\s+", " ");
        while (sql.startsWith("(") && sql.endsWith(")") && closes(sql)) {
            sql = sql.substring(1, sql.length() - 1).strip();
        }
        return sql;
    }

    /** Whether the bracket that opens a text is the one that closes it. */
    private static boolean closes(String sql) {
        int depth = 0;
        for (int i = 0; i < sql.length(); i++) {
            if (sql.charAt(i) == '(') {
                depth++;
            } else if (sql.charAt(i) == ')' && --depth == 0) {
                return i == sql.length() - 1;
            }
        }
        return false;
    }

    private static String key(Optional<Key> key) {
        return key.map(k -> String.join(", ", k.columns())).orElse("");
    }

    /** What is in one and not in the other, by what it says; how often it is there counts for nothing. */
    private void sets(Part part, Function<TableDefinition, Map<String, String>> of) {
        sets(part, of.apply(source), of.apply(target), of.apply(made));
    }

    private void sets(Part part, Map<String, String> at, Map<String, String> to, Map<String, String> expected) {
        at.forEach((what, shown) -> {
            if (!to.containsKey(what)) {
                add("", part, shown, "", !expected.containsKey(what));
            }
        });
        expected.forEach((what, shown) -> {
            if (!to.containsKey(what) && !at.containsKey(what)) {
                add("", part, shown, "", false);
            }
        });
        to.forEach((what, shown) -> {
            if (!at.containsKey(what)) {
                add("", part, "", shown, expected.containsKey(what));
            }
        });
    }

    /** Unique keys, and unique indexes that say no more; what the primary key says already needn't be said twice. */
    private static Map<String, String> uniques(TableDefinition table) {
        Map<String, String> all = new LinkedHashMap<>();
        table.uniqueKeys().forEach(k -> put(all, String.join(", ", k.columns())));
        table.indexes().stream()
                .filter(i -> i.unique() && isOfColumns(i))
                .forEach(i -> put(all, String.join(", ", i.columns())));
        all.remove(key(table.primaryKey()).toLowerCase(Locale.ROOT));
        return all;
    }

    private static boolean isOfColumns(IndexDefinition index) {
        return index.isPlain() && index.parts().stream().noneMatch(IndexDefinition.Part::descending);
    }

    private static void put(Map<String, String> all, String text) {
        all.put(text.toLowerCase(Locale.ROOT), text);
    }

    private static Map<String, String> references(TableDefinition table) {
        Map<String, String> all = new LinkedHashMap<>();
        for (ForeignKey key : table.foreignKeys()) {
            // the same schema goes without saying; a reference elsewhere names its own
            String to = key.target().schema().equals(table.name().schema())
                    ? key.target().name()
                    : key.target().toString();
            // in which order its columns stand is all the same to a reference
            ForeignKey sorted = key.inOrderOf(key.targetColumns().stream()
                    .sorted(String.CASE_INSENSITIVE_ORDER)
                    .toList());
            String between = between(key, to);
            String waits = key.deferrability().sql().isEmpty()
                    ? ""
                    : " " + key.deferrability().sql().toLowerCase(Locale.ROOT);
            all.put(
                    (between(sorted, to) + same(key.onUpdate()) + " " + same(key.onDelete()) + waits)
                            .toLowerCase(Locale.ROOT),
                    between + " on update " + key.onUpdate().sql().toLowerCase(Locale.ROOT) + " on delete "
                            + key.onDelete().sql().toLowerCase(Locale.ROOT) + waits);
        }
        return all;
    }

    private static String between(ForeignKey key, String to) {
        return String.join(", ", key.columns()) + " to " + to + " (" + String.join(", ", key.targetColumns()) + ")";
    }

    /** What refuses at once and what refuses in the end is the same where nothing waits. */
    private static ReferentialAction same(ReferentialAction action) {
        return action == ReferentialAction.RESTRICT ? ReferentialAction.NO_ACTION : action;
    }

    private static Map<String, String> checks(TableDefinition table) {
        Map<String, String> all = new LinkedHashMap<>();
        table.checks().forEach(c -> put(all, plain(c.condition())));
        return all;
    }

    /** The source's, those with expressions as they would be made. */
    private TableDefinition carriedIndexes() {
        return source.toBuilder()
                .indexes(source.indexes().stream()
                        .map(i -> i.isPlain()
                                ? i
                                : made.indexes().stream()
                                        .filter(m -> m.name().equals(i.name()))
                                        .findFirst()
                                        .orElse(i))
                        .toList())
                .build();
    }

    private static Map<String, String> indexes(TableDefinition table) {
        Map<String, String> all = new LinkedHashMap<>();
        for (IndexDefinition index : table.indexes()) {
            if (index.unique() && isOfColumns(index)) {
                continue;
            }
            put(
                    all,
                    (index.unique() ? "unique, " : "")
                            + index.own()
                                    .map(DefinitionComparison::plain)
                                    .orElseGet(() -> String.join(
                                            ", ",
                                            index.parts().stream()
                                                    .map(Object::toString)
                                                    .toList()))
                            + index.predicate().map(p -> " where " + plain(p)).orElse(""));
        }
        return all;
    }
}
