package org.orderlyferry.databases.script;

import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * The tables that a script has made so far, in their order. Where a system makes no difference between large letters and small ones,
 * a name means the table, or the column, that was made by it in whatever letters.
 */
final class MadeTables {

    private final boolean caseMatters;
    private final Map<String, Made> tables = new LinkedHashMap<>();

    private record Made(TableName name, TableDefinition.Builder table) {}

    MadeTables(boolean caseMatters) {
        this.caseMatters = caseMatters;
    }

    private String key(TableName name) {
        return letters(name.schema()) + "\0" + letters(name.name());
    }

    private String letters(String name) {
        return caseMatters ? name : name.toLowerCase(Locale.ROOT);
    }

    /** Whether two names mean the same to the system. */
    boolean areOne(String name, String other) {
        return letters(name).equals(letters(other));
    }

    void put(TableName name, TableDefinition.Builder table) {
        tables.put(key(name), new Made(name, table));
    }

    TableDefinition.@Nullable Builder get(TableName name) {
        Made made = tables.get(key(name));
        return made == null ? null : made.table();
    }

    /** The name by which the table was made that is taken away; null if there is none. */
    @Nullable
    TableName remove(TableName name) {
        Made made = tables.remove(key(name));
        return made == null ? null : made.name();
    }

    /** Whether one of them is what is looked for; the others after it aren't asked. */
    boolean anyOf(Predicate<TableDefinition.Builder> found) {
        return tables.values().stream().anyMatch(m -> found.test(m.table()));
    }

    void removeAll(Collection<TableName> names) {
        names.forEach(this::remove);
    }

    /** The name by which a table was made, of one that may be written otherwise; schemas aren't looked at. */
    String called(String name) {
        return tables.values().stream()
                .map(m -> m.name().name())
                .filter(n -> areOne(n, name))
                .findFirst()
                .orElse(name);
    }

    Set<String> names() {
        return tables.values().stream().map(m -> m.name().name()).collect(Collectors.toSet());
    }

    /** The definitions, with the names that their columns and those of others were made by. */
    List<TableDefinition> definitions() {
        List<TableDefinition> built =
                tables.values().stream().map(m -> m.table().build()).toList();
        return built.stream()
                .map(t -> caseMatters && t.foreignKeys().stream().noneMatch(MadeTables::isUnsaid) ? t : resolved(t))
                .toList();
    }

    private static boolean isUnsaid(ForeignKey key) {
        return key.targetColumns().stream().allMatch(TableRules.UNSAID::equals);
    }

    private TableDefinition resolved(TableDefinition table) {
        Key primary = table.primaryKey().map(k -> resolved(table, k)).orElse(null);
        return table.toBuilder()
                .columns(table.columns().stream()
                        .map(c -> primary != null && primary.columns().contains(c.name())
                                ? c.toBuilder().nullable(false).build()
                                : c)
                        .toList())
                .primaryKey(primary)
                .uniqueKeys(
                        table.uniqueKeys().stream().map(k -> resolved(table, k)).toList())
                .indexes(table.indexes().stream().map(i -> resolved(table, i)).toList())
                .foreignKeys(table.foreignKeys().stream()
                        .map(k -> resolved(table, k))
                        .toList())
                .build();
    }

    private String column(TableDefinition table, String name) {
        return table.column(name).isPresent()
                ? name
                : table.columnNames().stream()
                        .filter(c -> areOne(c, name))
                        .findFirst()
                        .orElse(name);
    }

    private Key resolved(TableDefinition table, Key key) {
        return new Key(
                key.name(), key.columns().stream().map(c -> column(table, c)).toList());
    }

    private IndexDefinition resolved(TableDefinition table, IndexDefinition index) {
        return new IndexDefinition(
                index.name(),
                index.unique(),
                index.parts().stream()
                        .map(p -> p.column().isEmpty()
                                ? p
                                : new IndexDefinition.Part(
                                        column(table, p.column()), p.expression(), p.descending(), p.prefix()))
                        .toList(),
                index.predicate(),
                index.own());
    }

    private ForeignKey resolved(TableDefinition table, ForeignKey key) {
        Made target = tables.get(key(key.target()));
        Optional<TableDefinition> other =
                Optional.ofNullable(target).map(t -> t.table().build());
        // of a table that isn't made here it isn't known
        List<String> columns = isUnsaid(key)
                ? other.flatMap(TableDefinition::primaryKey)
                        .map(Key::columns)
                        .filter(c -> c.size() == key.columns().size())
                        .orElse(key.columns())
                : key.targetColumns();
        if (other.isPresent()) {
            columns = columns.stream().map(c -> column(other.get(), c)).toList();
        }
        return new ForeignKey(
                key.name(),
                key.columns().stream().map(c -> column(table, c)).toList(),
                target == null ? key.target() : target.name(),
                columns,
                key.onUpdate(),
                key.onDelete(),
                key.deferrability());
    }
}
