package org.orderlyferry.profile;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Records;

/** What the values of a table look like, all of them. Not safe for use by several threads. */
public final class TableProfile {

    private final TableDefinition table;
    private final List<ColumnProfile> columns;
    private final List<Finding> findings = new ArrayList<>();
    private List<List<String>> composite = List.of();
    private long rows;
    private long rejected;

    private TableProfile(TableDefinition table) {
        this.table = table;
        Distinct.Room room = new Distinct.Room();
        this.columns =
                table.columns().stream().map(c -> new ColumnProfile(c, room)).toList();
    }

    /**
     * Looks at all records that a reader gives, and again for keys of several columns where no single one is a key.
     *
     * @param open opens the records
     * @param again opens the records that are whole once more
     * @param outlined what was found odd before
     * @param broken where the reader's rejects are noted; complete when this returns
     */
    public static TableProfile of(
            Supplier<RecordReader> open, Supplier<RecordReader> again, List<Finding> outlined, List<Finding> broken) {
        try (RecordReader reader = open.get()) {
            TableProfile profile = new TableProfile(reader.table());
            RecordBatch batch = new RecordBatch();
            while (reader.read(batch)) {
                profile.add(batch);
            }
            profile.findings.addAll(outlined);
            profile.findings.addAll(broken);
            profile.findings.addAll(reader.findings());
            profile.composite = KeySearch.find(profile.columns, profile.rows, again);
            return profile;
        }
    }

    /** The same, of a file in which so many more records can't be taken as they are. */
    public TableProfile withRejected(long count) {
        rejected = count;
        return this;
    }

    /** How many records can't be taken as they are, and are none of {@link #rows()}. */
    public long rejected() {
        return rejected;
    }

    private void add(Records batch) {
        for (int row = 0; row < batch.rows(); row++) {
            rows++;
            long line = batch.origin(row).line();
            for (int i = 0; i < columns.size(); i++) {
                if (batch.isNull(row, i)) {
                    columns.get(i).addNull();
                } else {
                    columns.get(i).add(batch.bytes(), batch.start(row, i), batch.end(row, i), line);
                }
            }
        }
    }

    /** The table as its file tells it. */
    public TableDefinition table() {
        return table;
    }

    /** How many records were looked at. */
    public long rows() {
        return rows;
    }

    /** What was found of each column, in their order. */
    public List<ColumnProfile> columns() {
        return columns;
    }

    /** What is odd about the file's form. */
    public List<Finding> findings() {
        return List.copyOf(findings);
    }

    /** Columns whose values are all there and all different; where no column is such, two columns or three. */
    public List<List<String>> candidateKeys() {
        List<List<String>> keys = new ArrayList<>();
        for (ColumnProfile column : columns) {
            if (column.nulls() == 0 && column.isUnique()) {
                keys.add(List.of(column.column().name()));
            }
        }
        keys.addAll(composite);
        return keys;
    }

    /** What is known of a column's values. */
    public Optional<ColumnProfile> column(String name) {
        return columns.stream().filter(c -> c.column().name().equals(name)).findFirst();
    }
}
