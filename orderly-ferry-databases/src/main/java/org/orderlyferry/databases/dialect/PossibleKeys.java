package org.orderlyferry.databases.dialect;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;

/**
 * Leaves behind, by name, keys, indexes and references that a system couldn't make over its columns: the server would say so
 * only after all records are in.
 */
final class PossibleKeys {

    private final Adapting adapting;
    private final LoadNotes notes;
    private final TableDefinition table;

    private PossibleKeys(Adapting adapting, LoadNotes notes, TableDefinition table) {
        this.adapting = adapting;
        this.notes = notes;
        this.table = table;
    }

    /** The table, adapted but for its keys, with those that are possible. */
    static TableDefinition of(TableDefinition table, Adapting adapting, LoadNotes notes) {
        PossibleKeys possible = new PossibleKeys(adapting, notes, table);
        return table.toBuilder()
                .primaryKey(table.primaryKey()
                        .filter(k -> possible.isKey("primary key", k))
                        .orElse(null))
                .uniqueKeys(table.uniqueKeys().stream()
                        .filter(k -> possible.isKey("unique key", k))
                        .toList())
                .indexes(table.indexes().stream()
                        .map(i -> i.own().isPresent() ? i : adapting.indexed(table, i))
                        .filter(possible::isIndex)
                        .toList())
                .foreignKeys(table.foreignKeys().stream()
                        .filter(possible::isReference)
                        .toList())
                .build();
    }

    private boolean isKey(String kind, Key key) {
        return isLeft(kind, key.shown(), reason(key.columns()));
    }

    private boolean isIndex(IndexDefinition index) {
        List<String> columns = index.parts().stream()
                .filter(p -> !p.column().isEmpty() && p.prefix() == 0)
                .map(IndexDefinition.Part::column)
                .toList();
        return index.own().isPresent() || isLeft("index", index.shown(), reason(columns));
    }

    private boolean isReference(ForeignKey key) {
        return isLeft("foreign key", key.shown(), reason(key.columns()));
    }

    private Optional<String> reason(List<String> columns) {
        return columns.stream()
                .flatMap(c -> table.column(c).stream())
                .filter(adapting::isNeverIndexed)
                .map(c -> "its column " + c.name() + " is held as " + c.sourceType() + ", which can't be indexed")
                .findFirst();
    }

    private boolean isLeft(String kind, String name, Optional<String> reason) {
        reason.ifPresent(r -> notes.leftBehind(kind, table.name() + "." + name, r));
        return reason.isEmpty();
    }
}
