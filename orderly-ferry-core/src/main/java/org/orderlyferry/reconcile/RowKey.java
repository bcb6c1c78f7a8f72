package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;

/**
 * By what records of a table are told apart.
 *
 * @param columns the key's columns by the source's names; all that are compared, where there is no key
 * @param places where each stands among the compared columns
 * @param whole whether it is one column of whole numbers on both sides, whose values are worth keeping
 */
record RowKey(List<String> columns, int[] places, boolean whole) {

    /** What a person says; else the primary key of one side; else a unique key of columns that are never null; else none. */
    static RowKey of(RowOrder order, TableDefinition at, TableDefinition to, ColumnPairs columns) {
        List<String> names = order.key(at)
                .or(() -> at.primaryKey().map(Key::columns).filter(columns.sourceNames()::containsAll))
                .or(() -> to.primaryKey().map(Key::columns).flatMap(k -> atSource(k, columns)))
                .or(() -> at.uniqueKeys().stream()
                        .map(Key::columns)
                        .filter(columns.sourceNames()::containsAll)
                        .filter(k -> k.stream()
                                .allMatch(c -> !at.column(c).orElseThrow().nullable()))
                        .findFirst())
                .orElse(columns.sourceNames());
        return new RowKey(
                names,
                names.stream().mapToInt(n -> columns.sourceNames().indexOf(n)).toArray(),
                names.size() == 1 && isWhole(at, to, columns, names.get(0)));
    }

    /** The same, whose records are never asked for by ranges of it. */
    RowKey withoutRanges() {
        return new RowKey(columns, places, false);
    }

    private static boolean isWhole(TableDefinition at, TableDefinition to, ColumnPairs columns, String name) {
        String other = columns.targetNames().get(columns.sourceNames().indexOf(name));
        return Stream.of(at.column(name), to.column(other))
                .allMatch(c -> switch (c.orElseThrow().type().name()) {
                    case SMALLINT, INTEGER, BIGINT -> true;
                    default -> false;
                });
    }

    private static Optional<List<String>> atSource(List<String> key, ColumnPairs columns) {
        List<String> names = new ArrayList<>();
        for (String column : key) {
            int at = columns.targetNames().indexOf(column);
            if (at < 0) {
                return Optional.empty();
            }
            names.add(columns.sourceNames().get(at));
        }
        return Optional.of(names);
    }
}
