package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;

/**
 * Leaves references behind, by name, whose target isn't there, or has no key that they could refer to. A unique index becomes the
 * key that a reference needs, and columns stand in the key's order, which is all the same to a reference and not to a system.
 */
@API(status = API.Status.INTERNAL)
public final class PossibleReferences {

    private final ReferenceRules.Referred referred;
    private final Function<TableName, Optional<TableDefinition>> there;
    private final String otherwise;
    private final LoadNotes notes;
    private final Map<TableName, TableDefinition> coming = new HashMap<>();
    private final Map<TableName, Set<IndexDefinition>> becomeKeys = new HashMap<>();

    /**
     * By what a system takes.
     *
     * @param there finds tables that are there and don't come
     * @param otherwise what a target is that neither comes nor is there, as the end of a sentence
     */
    public PossibleReferences(
            ReferenceRules.Referred referred,
            Function<TableName, Optional<TableDefinition>> there,
            String otherwise,
            LoadNotes notes) {
        this.referred = referred;
        this.there = there;
        this.otherwise = otherwise;
        this.notes = notes;
    }

    /** Replaces tables, by whatever name, as the system will hold them, by those whose references can be made. */
    public void settle(Map<TableName, TableDefinition> tables) {
        tables.values().forEach(t -> coming.put(t.name(), t));
        tables.replaceAll((source, table) -> of(table));
        tables.replaceAll((source, table) -> withKeys(table));
    }

    private TableDefinition of(TableDefinition table) {
        List<ForeignKey> kept = new ArrayList<>();
        TableDefinition counted = table;
        for (ForeignKey key : table.foreignKeys()) {
            Optional<TableDefinition> comes = Optional.ofNullable(coming.get(key.target()));
            Optional<TableDefinition> target = comes.or(() -> there.apply(key.target()));
            Optional<ReferredKey> refers = target.flatMap(t -> ReferredKey.of(t, key.targetColumns(), referred))
                    .filter(k -> k.index().isEmpty() || comes.isPresent() || referred != ReferenceRules.Referred.KEYS);
            if (target.isEmpty()) {
                left(table, key, "it refers to " + key.target() + ", which is " + otherwise);
            } else if (refers.isEmpty()) {
                left(
                        table,
                        key,
                        "it refers to " + key.target() + " by " + String.join(", ", key.targetColumns())
                                + ", which no key of it holds");
            } else {
                kept.add(key.inOrderOf(refers.get().columns()));
                refers.get().index().ifPresent(i -> becomeKeys
                        .computeIfAbsent(key.target(), t -> new LinkedHashSet<>())
                        .add(i));
                TableDefinition now = counted;
                counted = comes.map(t -> counted(now, key, t)).orElse(now);
            }
        }
        return counted.toBuilder().foreignKeys(kept).build();
    }

    private TableDefinition withKeys(TableDefinition table) {
        Set<IndexDefinition> become = becomeKeys.getOrDefault(table.name(), Set.of());
        if (become.isEmpty()) {
            return table;
        }
        List<Key> keys = new ArrayList<>(table.uniqueKeys());
        for (IndexDefinition index : become) {
            keys.add(new Key(index.name(), index.columns()));
            notes.finding(
                    FindingCode.KEY_MADE,
                    table.name(),
                    String.join("+", index.columns()),
                    "unique index " + index.shown() + " becomes a unique key, since references need one");
        }
        return table.toBuilder()
                .uniqueKeys(keys)
                .indexes(table.indexes().stream()
                        .filter(i -> !become.contains(i))
                        .toList())
                .build();
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
}
