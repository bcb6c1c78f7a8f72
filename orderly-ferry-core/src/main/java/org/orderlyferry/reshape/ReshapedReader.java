package org.orderlyferry.reshape;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.fit.ConvertedReader;

/** Reads the records of a table as it is to be. */
final class ReshapedReader implements RecordReader {

    private final ReshapedTable table;
    private final TableDefinition after;
    private final RecordReader raw;
    private final RecordReader inner;
    private final List<String> read;
    private final int[] places;
    private final RecordBatch before = new RecordBatch();
    private volatile long leftOut;
    private long number;

    ReshapedReader(Place place, ReshapedTable table, Slice slice, Rejects rejects) {
        this.table = table;
        this.after = table.after().withColumns(slice.columns());
        List<String> wanted = slice.columns().stream().map(table::oldName).toList();
        Set<String> all = new LinkedHashSet<>(wanted);
        all.remove("");
        table.conditions().forEach(c -> all.addAll(c.columns()));
        this.read = new ArrayList<>(all);
        this.places = wanted.stream().mapToInt(read::indexOf).toArray();
        Slice formerly = new Slice(table.before().name(), read, table.formerly(slice.range()), slice.piece());
        this.raw = table.restriction()
                .map(r -> place.readRestricted(formerly, rejects, r))
                .orElseGet(() -> place.read(formerly, rejects));
        // other types for the columns that stay; what only a condition asks for keeps its own
        TableDefinition typed = table.before().toBuilder()
                .columns(raw.table().columns().stream()
                        .map(c -> table.after()
                                .column(table.kept().getOrDefault(c.name(), ""))
                                .map(n -> c.withType(n.type()))
                                .orElse(c))
                        .toList())
                .build();
        this.inner = typed.columns().equals(raw.table().columns()) ? raw : new ConvertedReader(raw, typed, rejects);
    }

    @Override
    public TableDefinition table() {
        return after;
    }

    @Override
    public boolean read(RecordBatch batch) {
        while (inner.read(before)) {
            Origin from = before.origin(0);
            if (from.isFile()) {
                batch.start(places.length, after.name().toString(), from.source(), true);
            } else {
                batch.start(after, from.source());
            }
            for (int row = 0; row < before.rows(); row++) {
                if (isWanted(row)) {
                    copy(batch, row);
                } else {
                    leftOut++;
                }
            }
            if (batch.rows() > 0) {
                return true;
            }
        }
        batch.start(places.length, after.name().toString(), "", false);
        return false;
    }

    private boolean isWanted(int row) {
        for (Condition condition : table.conditions()) {
            Boolean holds = condition.holds(name -> before.text(row, read.indexOf(name)));
            if (!Boolean.TRUE.equals(holds)) {
                return false;
            }
        }
        return true;
    }

    private void copy(RecordBatch batch, int row) {
        for (int place : places) {
            if (place < 0) {
                batch.add(++number);
            } else if (before.isNull(row, place)) {
                batch.addNull();
            } else {
                batch.add(before.bytes(), before.start(row, place), before.end(row, place));
            }
        }
        batch.endRow(before.origin(row).line());
    }

    @Override
    public List<Finding> findings() {
        List<Finding> all = new ArrayList<>(inner.findings());
        all.addAll(table.findings());
        return all;
    }

    @Override
    public long leftOut() {
        return leftOut + raw.leftOut();
    }

    @Override
    public void close() {
        inner.close();
    }
}
