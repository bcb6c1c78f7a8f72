package org.orderlyferry.profile;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Records;

/**
 * References that may be proposed among several tables: a column that is called like another table, or like its key, and
 * has no value that the key hasn't.
 */
@API(status = API.Status.INTERNAL)
public final class References {

    private final Map<TableDefinition, TableProfile> tables = new LinkedHashMap<>();

    /** Takes a table that others may refer to. */
    public void add(TableDefinition table, TableProfile profile) {
        tables.put(table, profile);
    }

    /**
     * A table with the references that it may have.
     *
     * @param reader gives its records once more, as the file has them
     */
    public TableDefinition added(TableDefinition table, Supplier<RecordReader> reader) {
        Map<ColumnDefinition, Target> candidates = new LinkedHashMap<>();
        for (ColumnDefinition column : table.columns()) {
            target(table, column).ifPresent(t -> candidates.put(column, t));
        }
        if (candidates.isEmpty()) {
            return table;
        }
        removeUnless(contained(table, candidates, reader), candidates);
        TableDefinition.Builder builder = table.toBuilder();
        candidates.forEach((column, target) -> builder.foreignKey(new ForeignKey(
                "",
                List.of(column.name()),
                target.table().name(),
                List.of(target.key()),
                ReferentialAction.NO_ACTION,
                ReferentialAction.NO_ACTION,
                Deferrability.NOT_DEFERRABLE)));
        return builder.build();
    }

    private record Target(TableDefinition table, String key, Distinct values) {}

    private Optional<Target> target(TableDefinition table, ColumnDefinition column) {
        String name = plain(column.name());
        for (Map.Entry<TableDefinition, TableProfile> entry : tables.entrySet()) {
            TableDefinition other = entry.getKey();
            Optional<String> key = other.primaryKey()
                    .filter(k -> k.columns().size() == 1)
                    .map(k -> k.columns().get(0));
            boolean self = other.name().equals(table.name());
            if (key.isEmpty() || self && key.get().equals(column.name())) {
                continue;
            }
            ColumnDefinition target = other.column(key.get()).orElseThrow();
            String plainTable = plain(other.name().name());
            String plainKey = plain(key.get());
            Set<String> names = Set.of(plainTable, plainTable + plainKey, "parent" + plainTable);
            boolean named = names.contains(name)
                    || name.equals(plainKey) && plainKey.startsWith(plainTable)
                    || self && name.equals("parent")
                    // a list that was taken out of a record
                    || name.equals("parent")
                            && table.name().name().startsWith(other.name().name() + "_");
            Distinct values = entry.getValue().column(key.get()).orElseThrow().distincts();
            if (named && target.type().name() == column.type().name() && values.isUnique()) {
                return Optional.of(new Target(other, key.get(), values));
            }
        }
        return Optional.empty();
    }

    /** A name without case, marks and the ending of a plural. */
    private static String plain(String name) {
        String bare = name.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]", "");
        return bare.length() > 3 && bare.endsWith("s") ? bare.substring(0, bare.length() - 1) : bare;
    }

    private static Set<ColumnDefinition> contained(
            TableDefinition table, Map<ColumnDefinition, Target> candidates, Supplier<RecordReader> reader) {
        Set<ColumnDefinition> left = new java.util.LinkedHashSet<>(candidates.keySet());
        RecordBatch batch = new RecordBatch();
        try (RecordReader records = reader.get()) {
            while (!left.isEmpty() && records.read(batch)) {
                for (ColumnDefinition column : List.copyOf(left)) {
                    int index = table.columnNames().indexOf(column.name());
                    if (!isContained(batch, index, candidates.get(column).values())) {
                        left.remove(column);
                    }
                }
            }
        }
        return left;
    }

    private static boolean isContained(Records batch, int column, Distinct values) {
        for (int row = 0; row < batch.rows(); row++) {
            boolean there = batch.isNull(row, column)
                    || values.contains(
                            ColumnProfile.hash(batch.bytes(), batch.start(row, column), batch.end(row, column)));
            if (!there) {
                return false;
            }
        }
        return true;
    }

    private static void removeUnless(Set<ColumnDefinition> kept, Map<ColumnDefinition, Target> candidates) {
        new ArrayList<>(candidates.keySet())
                .stream().filter(c -> !kept.contains(c)).forEach(candidates::remove);
    }
}
