package org.orderlyferry.databases.dialect;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;

/**
 * What a reference refers to.
 *
 * @param columns the columns referred to, in the order that it has them: some systems take no other
 * @param index the unique index that had better become a unique key for it
 */
record ReferredKey(List<String> columns, Optional<IndexDefinition> index) {

    /** Finds it by what a system takes; empty where a table has nothing of the kind. */
    static Optional<ReferredKey> of(TableDefinition table, List<String> columns, ReferenceRules.Referred rule) {
        boolean leading = rule == ReferenceRules.Referred.LEADING;
        Stream<List<String>> keys = Stream.concat(
                table.primaryKey().map(Key::columns).stream(),
                table.uniqueKeys().stream().map(Key::columns).filter(k -> isWhole(table, k, rule)));
        Optional<ReferredKey> key = keys.filter(k -> holds(k, columns, leading))
                .map(k -> new ReferredKey(k.subList(0, columns.size()), Optional.empty()))
                .findFirst();
        return key.or(() -> table.indexes().stream()
                .filter(i -> i.isPlain() && (i.unique() || leading))
                .filter(i -> holds(i.columns(), columns, leading) && isWhole(table, i.columns(), rule))
                .map(i -> new ReferredKey(
                        i.columns().subList(0, columns.size()),
                        rule == ReferenceRules.Referred.KEYS || rule == ReferenceRules.Referred.UNIQUE_WITHOUT_NULLS
                                ? Optional.of(i)
                                : Optional.empty()))
                .findFirst());
    }

    private static boolean isWhole(TableDefinition table, List<String> columns, ReferenceRules.Referred rule) {
        return rule != ReferenceRules.Referred.UNIQUE_WITHOUT_NULLS
                || columns.stream().flatMap(c -> table.column(c).stream()).noneMatch(ColumnDefinition::nullable);
    }

    private static boolean holds(List<String> key, List<String> columns, boolean leading) {
        boolean fits = leading ? key.size() >= columns.size() : key.size() == columns.size();
        return fits && Set.copyOf(key.subList(0, columns.size())).equals(Set.copyOf(columns));
    }
}
