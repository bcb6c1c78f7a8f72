package org.orderlyferry.profile;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** What the values of a table look like, all of them. Not safe for use by several threads. */
public final class TableProfile {

    /** Pairs of columns are looked at as keys among the first of them only: keys stand in front. */
    private static final int PAIRED = 4;

    private final TableDefinition table;
    private final List<ColumnProfile> columns;
    private final Map<List<Integer>, Distinct> pairs = new LinkedHashMap<>();
    private final List<Finding> findings = new ArrayList<>();
    private long rows;

    private TableProfile(TableDefinition table) {
        this.table = table;
        Distinct.Room room = new Distinct.Room();
        this.columns =
                table.columns().stream().map(c -> new ColumnProfile(c, room)).toList();
        for (int i = 0; i < Math.min(PAIRED, columns.size()); i++) {
            for (int j = i + 1; j < Math.min(PAIRED, columns.size()); j++) {
                pairs.put(List.of(i, j), new Distinct(room));
            }
        }
    }

    /**
     * Looks at all records that a reader gives.
     *
     * @param outlined what was found odd before
     * @param broken where the reader's rejects are noted; complete when this returns
     */
    public static TableProfile of(RecordReader reader, List<Finding> outlined, List<Finding> broken) {
        TableProfile profile = new TableProfile(reader.table());
        RecordBatch batch = new RecordBatch();
        while (reader.read(batch)) {
            profile.add(batch);
        }
        profile.findings.addAll(outlined);
        profile.findings.addAll(broken);
        profile.findings.addAll(reader.findings());
        return profile;
    }

    private void add(RecordBatch batch) {
        long[] hashes = new long[columns.size()];
        boolean[] nulls = new boolean[columns.size()];
        for (int row = 0; row < batch.rows(); row++) {
            rows++;
            long line = batch.origin(row).line();
            for (int i = 0; i < hashes.length; i++) {
                nulls[i] = batch.isNull(row, i);
                if (nulls[i]) {
                    columns.get(i).addNull();
                } else {
                    hashes[i] = columns.get(i).add(batch.bytes(), batch.start(row, i), batch.end(row, i), line);
                }
            }
            for (var pair : pairs.entrySet()) {
                int one = pair.getKey().get(0);
                int other = pair.getKey().get(1);
                if (!nulls[one] && !nulls[other]) {
                    pair.getValue().add(hashes[one] * 0x9E3779B97F4A7C15L + Long.rotateLeft(hashes[other], 31), line);
                }
            }
        }
    }

    /** The table as its file tells it. */
    public TableDefinition table() {
        return table;
    }

    public long rows() {
        return rows;
    }

    public List<ColumnProfile> columns() {
        return columns;
    }

    /** What is odd about the file's form. */
    public List<Finding> findings() {
        return List.copyOf(findings);
    }

    /** Columns whose values are all there and all different, and pairs of columns where no column is such. */
    public List<List<String>> candidateKeys() {
        List<List<String>> keys = new ArrayList<>();
        for (ColumnProfile column : columns) {
            if (column.nulls() == 0 && column.isUnique()) {
                keys.add(List.of(column.column().name()));
            }
        }
        if (keys.isEmpty() && rows > 1) {
            pairs.forEach((pair, distinct) -> {
                ColumnProfile one = columns.get(pair.get(0));
                ColumnProfile other = columns.get(pair.get(1));
                if (one.nulls() == 0 && other.nulls() == 0 && distinct.isUnique()) {
                    keys.add(List.of(one.column().name(), other.column().name()));
                }
            });
        }
        return keys;
    }

    /** What is known of a column's values. */
    public Optional<ColumnProfile> column(String name) {
        return columns.stream().filter(c -> c.column().name().equals(name)).findFirst();
    }
}
