package org.orderlyferry.testkit.doubles;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.TreeMap;
import java.util.stream.IntStream;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.RangedReader;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/**
 * A place whose records stand in lists: value text, null for null, and binary values in Base64. It is cut by the first
 * column of a table's primary key where that is a whole number. Safe for use by several threads once it is filled.
 */
public final class ListedPlace implements Place {

    private static final int BATCH = 3;

    private final Map<TableName, Listed> tables = new TreeMap<>();

    private record Listed(TableDefinition table, List<List<String>> rows) {}

    /** One more table. */
    public ListedPlace with(TableDefinition table, List<List<String>> rows) {
        tables.put(table.name(), new Listed(table, List.copyOf(rows)));
        return this;
    }

    /** A table's records, as they were given. */
    public List<List<String>> rows(TableName table) {
        return listed(table).rows();
    }

    private Listed listed(TableName table) {
        Listed listed = tables.get(table);
        if (listed == null) {
            throw new UsageException("there is no table " + table + " in " + address());
        }
        return listed;
    }

    @Override
    public String address() {
        return "listed";
    }

    @Override
    public String system() {
        return "lists";
    }

    @Override
    public List<TableName> tables() {
        return List.copyOf(tables.keySet());
    }

    @Override
    public TableDefinition define(TableName table) {
        return listed(table).table();
    }

    @Override
    public long count(TableName table) {
        return listed(table).rows().size();
    }

    @Override
    public OptionalLong bytes(TableName table) {
        return OptionalLong.empty();
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return List.of();
    }

    @Override
    public Companions companions(int count) {
        return new Companions(Collections.nCopies(count, this), List.of());
    }

    @Override
    public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        Slice whole = Slice.whole(table);
        String key = table.primaryKey().map(Key::columns).map(c -> c.get(0)).orElse("");
        if (key.isEmpty() || !table.column(key).orElseThrow().type().name().isExactNumber()) {
            return List.of(whole);
        }
        int place = table.columnNames().indexOf(key);
        List<BigDecimal> keys = listed(table.name()).rows().stream()
                .map(r -> new BigDecimal(r.get(place)))
                .sorted()
                .distinct()
                .toList();
        List<Slice> slices = new ArrayList<>();
        List<String> from = List.of();
        for (int i = (int) cut.rows(); i < keys.size(); i += (int) cut.rows()) {
            List<String> to = List.of(keys.get(i).toPlainString());
            slices.add(whole.within(new KeyRange(List.of(key), from, to, false)));
            from = to;
        }
        slices.add(slices.isEmpty() ? whole : whole.within(new KeyRange(List.of(key), from, List.of(), false)));
        return slices;
    }

    @Override
    public RecordReader read(Slice slice) {
        return RangedReader.of(new Reader(listed(slice.table()), slice.columns()), slice);
    }

    @Override
    public void close() {
        // nothing is held
    }

    /** Gives some records at a time, so that there are several batches of few. */
    private static final class Reader implements RecordReader {

        private final TableDefinition table;
        private final List<List<String>> rows;
        private final int[] places;
        private int next;

        Reader(Listed listed, List<String> columns) {
            this.table = listed.table().withColumns(columns);
            this.rows = listed.rows();
            this.places = columns.stream()
                    .mapToInt(listed.table().columnNames()::indexOf)
                    .toArray();
        }

        @Override
        public TableDefinition table() {
            return table;
        }

        @Override
        public boolean read(RecordBatch batch) {
            batch.start(places.length, table.name().toString(), "listed", false);
            int end = Math.min(rows.size(), next + BATCH);
            for (; next < end; next++) {
                List<String> row = rows.get(next);
                IntStream.range(0, places.length).forEach(i -> add(batch, i, row.get(places[i])));
                batch.endRow(next + 1);
            }
            return batch.rows() > 0;
        }

        private void add(RecordBatch batch, int column, String value) {
            if (value == null) {
                batch.addNull();
                return;
            }
            TypeName type = table.columns().get(column).type().name();
            batch.add(type.isBinary() ? Base64.getDecoder().decode(value) : value.getBytes(StandardCharsets.UTF_8));
        }

        @Override
        public void close() {
            // nothing is held
        }
    }
}
