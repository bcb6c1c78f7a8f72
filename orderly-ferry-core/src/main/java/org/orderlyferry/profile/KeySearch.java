package org.orderlyferry.profile;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Supplier;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Records;

/**
 * Looks for columns whose values together are never null and never the same, in a table where no single column is so:
 * first two, and if no two are found, three. Most tries are given up after few records, when a combination comes again.
 */
final class KeySearch {

    /** Keys are made of few columns, and those stand in front. */
    private static final int COLUMNS = 10;

    private static final int LONGEST = 64;
    /** Among fewer records, three columns are all different by chance. */
    private static final int ROWS_FOR_THREE = 50;
    /** By so much an estimate of different values may be too low. */
    private static final double SLACK = 1.1;

    private final List<ColumnProfile> columns;
    private final long rows;

    private KeySearch(List<ColumnProfile> columns, long rows) {
        this.columns = columns;
        this.rows = rows;
    }

    /**
     * The sets of columns that were found, each in the table's order.
     *
     * @param columns what is known of each column after all records have been seen once
     * @param again opens the records once more
     */
    static List<List<String>> find(List<ColumnProfile> columns, long rows, Supplier<RecordReader> again) {
        KeySearch search = new KeySearch(columns, rows);
        if (rows < 2 || columns.stream().anyMatch(c -> c.nulls() == 0 && c.isUnique())) {
            return List.of();
        }
        List<Integer> parts = search.parts();
        List<List<String>> pairs = search.unique(search.sets(parts, 2), again);
        return pairs.isEmpty() && rows >= ROWS_FOR_THREE ? search.unique(search.sets(parts, 3), again) : pairs;
    }

    /** The columns that may be part of a key. */
    private List<Integer> parts() {
        List<Integer> parts = new ArrayList<>();
        for (int i = 0; i < columns.size() && parts.size() < COLUMNS; i++) {
            ColumnProfile column = columns.get(i);
            boolean fits = column.nulls() == 0
                    && column.distinct() > 1
                    && column.longest() <= LONGEST
                    && !column.column().type().name().isBinary();
            if (fits) {
                parts.add(i);
            }
        }
        return parts;
    }

    /** Sets of so many columns that have as many combinations as there are records. */
    private List<List<Integer>> sets(List<Integer> parts, int size) {
        List<List<Integer>> sets = new ArrayList<>();
        for (int a = 0; a < parts.size(); a++) {
            for (int b = a + 1; b < parts.size(); b++) {
                if (size == 2) {
                    sets.add(List.of(parts.get(a), parts.get(b)));
                    continue;
                }
                for (int c = b + 1; c < parts.size(); c++) {
                    sets.add(List.of(parts.get(a), parts.get(b), parts.get(c)));
                }
            }
        }
        sets.removeIf(s ->
                s.stream().mapToDouble(i -> columns.get(i).distinct() * SLACK).reduce(1, (x, y) -> x * y) < rows);
        return sets;
    }

    private List<List<String>> unique(List<List<Integer>> sets, Supplier<RecordReader> again) {
        if (sets.isEmpty()) {
            return List.of();
        }
        Distinct.Room room = new Distinct.Room();
        Map<List<Integer>, Distinct> tries = new LinkedHashMap<>();
        sets.forEach(s -> tries.put(s, new Distinct(room)));
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = again.get()) {
            while (!tries.isEmpty() && reader.read(batch)) {
                add(batch, tries);
            }
        }
        return tries.keySet().stream()
                .map(s -> s.stream().map(i -> columns.get(i).column().name()).toList())
                .toList();
    }

    private void add(Records batch, Map<List<Integer>, Distinct> tries) {
        Set<Integer> parts = new TreeSet<>();
        tries.keySet().forEach(parts::addAll);
        long[] hashes = new long[columns.size()];
        for (int row = 0; row < batch.rows(); row++) {
            for (int i : parts) {
                hashes[i] = ColumnProfile.hash(batch.bytes(), batch.start(row, i), batch.end(row, i));
            }
            tries.entrySet().removeIf(t -> {
                long hash = 0;
                for (int i : t.getKey()) {
                    hash = Long.rotateLeft(hash, 31) * 0x9E3779B97F4A7C15L + hashes[i];
                }
                t.getValue().add(hash, 0);
                return !t.getValue().isUnique();
            });
        }
    }
}
