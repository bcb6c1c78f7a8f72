package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;

/** Leaves references behind, by name, whose target isn't there, or has no key that they could refer to. */
@API(status = API.Status.INTERNAL)
public final class PossibleReferences {

    private final Map<TableName, TableDefinition> coming = new HashMap<>();
    private final Predicate<TableName> there;
    private final String otherwise;
    private final LoadNotes notes;

    /**
     * Among tables that come.
     *
     * @param coming those tables, as the system will hold them
     * @param there whether a table is there that doesn't come
     * @param otherwise what a target is that is neither, as the end of a sentence
     */
    public PossibleReferences(
            Collection<TableDefinition> coming, Predicate<TableName> there, String otherwise, LoadNotes notes) {
        coming.forEach(t -> this.coming.put(t.name(), t));
        this.there = there;
        this.otherwise = otherwise;
        this.notes = notes;
    }

    /** A table with those references that can be made. */
    public TableDefinition of(TableDefinition table) {
        List<ForeignKey> kept = new ArrayList<>();
        TableDefinition counted = table;
        for (ForeignKey key : table.foreignKeys()) {
            Optional<TableDefinition> target = Optional.ofNullable(coming.get(key.target()));
            if (target.isEmpty() && !there.test(key.target())) {
                left(table, key, "it refers to " + key.target() + ", which is " + otherwise);
            } else if (target.filter(t -> !hasKey(t, key.targetColumns())).isPresent()) {
                left(
                        table,
                        key,
                        "it refers to " + key.target() + " by " + String.join(", ", key.targetColumns())
                                + ", which no key of it holds");
            } else {
                kept.add(key);
                TableDefinition now = counted;
                counted = target.map(t -> counted(now, key, t)).orElse(now);
            }
        }
        return counted.toBuilder().foreignKeys(kept).build();
    }

    /** A table whose columns are as the counters that they refer to: those became smaller than they were declared. */
    private TableDefinition counted(TableDefinition table, ForeignKey key, TableDefinition target) {
        List<ColumnDefinition> columns = new ArrayList<>(table.columns());
        for (int i = 0; i < key.columns().size(); i++) {
            int at = table.columnNames().indexOf(key.columns().get(i));
            Optional<ColumnDefinition> its = target.column(key.targetColumns().get(i));
            boolean smaller = at >= 0
                    && its.filter(c -> c.identity().isPresent() && c.type().equals(LogicalType.BIGINT))
                            .isPresent()
                    && columns.get(at).type().name() == TypeName.DECIMAL;
            if (smaller) {
                ColumnDefinition mine = columns.get(at);
                notes.finding(
                        FindingCode.TYPE_CHANGED,
                        table.name(),
                        mine.name(),
                        "becomes " + its.get().sourceType() + " instead of " + mine.sourceType() + ", like the counter "
                                + target.name() + "." + its.get().name() + " that it refers to");
                columns.set(
                        at,
                        mine.withType(LogicalType.BIGINT).toBuilder()
                                .sourceType(its.get().sourceType())
                                .build());
            }
        }
        return table.toBuilder().columns(columns).build();
    }

    private void left(TableDefinition table, ForeignKey key, String reason) {
        notes.leftBehind("foreign key", table.name() + "." + key.shown(), reason);
    }

    /** MariaDB also takes the first columns of a longer key, and of an index that isn't unique. */
    private static boolean hasKey(TableDefinition target, List<String> columns) {
        boolean beginnings = target.system().equals("MariaDB");
        return target.primaryKey()
                        .filter(k -> holds(k.columns(), columns, beginnings))
                        .isPresent()
                || target.uniqueKeys().stream().anyMatch(k -> holds(k.columns(), columns, beginnings))
                || target.indexes().stream()
                        .filter(i -> i.isPlain() && (i.unique() || beginnings))
                        .anyMatch(i -> holds(i.columns(), columns, beginnings));
    }

    private static boolean holds(List<String> key, List<String> columns, boolean beginning) {
        boolean fits = beginning ? key.size() >= columns.size() : key.size() == columns.size();
        return fits && Set.copyOf(key.subList(0, columns.size())).equals(Set.copyOf(columns));
    }
}
