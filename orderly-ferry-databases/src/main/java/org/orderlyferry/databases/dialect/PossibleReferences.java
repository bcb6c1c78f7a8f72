package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** Leaves references behind, by name, whose target isn't there, or has no key that they could refer to. */
public final class PossibleReferences {

    private final Function<TableName, Optional<TableDefinition>> coming;
    private final Function<TableName, Boolean> there;
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
            Map<TableName, TableDefinition> coming,
            Function<TableName, Boolean> there,
            String otherwise,
            LoadNotes notes) {
        this.coming = name ->
                coming.values().stream().filter(t -> t.name().equals(name)).findFirst();
        this.there = there;
        this.otherwise = otherwise;
        this.notes = notes;
    }

    /** A table with those references that can be made. */
    public TableDefinition of(TableDefinition table) {
        List<ForeignKey> kept = new ArrayList<>();
        for (ForeignKey key : table.foreignKeys()) {
            Optional<TableDefinition> target = coming.apply(key.target());
            if (target.isEmpty() && !there.apply(key.target())) {
                left(table, key, "it refers to " + key.target() + ", which is " + otherwise);
            } else if (target.filter(t -> !hasKey(t, key.targetColumns())).isPresent()) {
                left(
                        table,
                        key,
                        "it refers to " + key.target() + " by " + String.join(", ", key.targetColumns())
                                + ", which no key of it holds");
            } else {
                kept.add(key);
            }
        }
        return table.toBuilder().foreignKeys(kept).build();
    }

    private void left(TableDefinition table, ForeignKey key, String reason) {
        notes.leftBehind("foreign key", table.name() + "." + key.shown(), reason);
    }

    /** Some systems take an index that isn't unique; what is declared so, at one of those, is taken to be meant so. */
    private static boolean hasKey(TableDefinition target, List<String> columns) {
        Set<String> wanted = new HashSet<>(columns);
        return target.primaryKey()
                        .filter(k -> Set.copyOf(k.columns()).equals(wanted))
                        .isPresent()
                || target.uniqueKeys().stream()
                        .anyMatch(k -> Set.copyOf(k.columns()).equals(wanted))
                || target.indexes().stream()
                        .filter(IndexDefinition::isPlain)
                        .anyMatch(i -> i.columns().size() >= columns.size()
                                && (i.unique() || target.system().equals("MariaDB"))
                                && new HashSet<>(i.columns().subList(0, columns.size())).equals(wanted));
    }
}
