package org.orderlyferry.databases.dialect;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Predicate;
import java.util.stream.Stream;
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
        Optional<Key> primary = table.primaryKey().filter(k -> possible.isKey("primary key", k));
        List<Key> unique = table.uniqueKeys().stream()
                .filter(k -> possible.isKey("unique key", k))
                .toList();
        List<IndexDefinition> indexes = table.indexes().stream()
                .map(i -> i.own().isPresent() ? i : adapting.indexed(table, i))
                .filter(possible::isIndex)
                .toList();
        List<ForeignKey> references =
                table.foreignKeys().stream().filter(possible::isReference).toList();
        if (!adapting.canIndexTwice()) {
            indexes = possible.different(primary, unique, indexes);
        }
        if (adapting.mostIndexes() > 0) {
            int others = (primary.isPresent() ? 1 : 0) + unique.size() + references.size();
            indexes = possible.few(indexes, adapting.mostIndexes() - others);
        }
        List<String> whole =
                adapting.canKeysBeNull() ? List.of() : primary.map(Key::columns).orElse(List.of());
        return table.toBuilder()
                // a null in a key is a value that can't be held; the server would say so when it makes the key, and not
                // of which record
                .columns(table.columns().stream()
                        .map(c -> c.nullable() && whole.contains(c.name())
                                ? c.toBuilder().nullable(false).build()
                                : c)
                        .toList())
                .primaryKey(primary.orElse(null))
                .uniqueKeys(unique)
                .indexes(indexes)
                .foreignKeys(references)
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
        return index.own().isPresent()
                || isLeft("index", index.shown(), tooMany(index.parts().size()).or(() -> reason(columns)));
    }

    /** Indexes of which no two are of the same columns, and none of a key's. */
    private List<IndexDefinition> different(Optional<Key> primary, List<Key> unique, List<IndexDefinition> indexes) {
        Set<Object> seen = new HashSet<>();
        Stream.concat(primary.stream(), unique.stream())
                .forEach(
                        k -> seen.add(IndexDefinition.of("", false, k.columns()).parts()));
        return chosen(
                indexes, i -> !i.isPlain() || seen.add(i.parts()), "another index or key of the same columns is there");
    }

    /** No more than there is room for. */
    private List<IndexDefinition> few(List<IndexDefinition> indexes, int room) {
        AtomicInteger left = new AtomicInteger(room);
        return chosen(
                indexes,
                i -> left.getAndDecrement() > 0,
                "a table can have " + adapting.mostIndexes() + " keys and indexes there, and has them");
    }

    /** Those that are taken, of which unique ones are asked before others; the rest is left behind. */
    private List<IndexDefinition> chosen(
            List<IndexDefinition> indexes, Predicate<IndexDefinition> takes, String otherwise) {
        Set<IndexDefinition> kept = new HashSet<>();
        for (boolean first : new boolean[] {true, false}) {
            indexes.stream().filter(i -> i.unique() == first && takes.test(i)).forEach(kept::add);
        }
        return indexes.stream()
                .filter(i -> isLeft("index", i.shown(), kept.contains(i) ? Optional.empty() : Optional.of(otherwise)))
                .toList();
    }

    private boolean isReference(ForeignKey key) {
        return isLeft("foreign key", key.shown(), reason(key.columns()));
    }

    private Optional<String> reason(List<String> columns) {
        return tooMany(columns.size()).or(() -> columns.stream()
                .flatMap(c -> table.column(c).stream())
                .filter(adapting::isNeverIndexed)
                .map(c -> "its column " + c.name() + " is held as " + c.sourceType() + ", which can't be indexed")
                .findFirst());
    }

    private Optional<String> tooMany(int columns) {
        int most = adapting.mostIndexedColumns();
        return most == 0 || columns <= most
                ? Optional.empty()
                : Optional.of("it is of " + columns + " columns, and there can be " + most);
    }

    private boolean isLeft(String kind, String name, Optional<String> reason) {
        reason.ifPresent(r -> notes.leftBehind(kind, table.name() + "." + name, r));
        return reason.isEmpty();
    }
}
