package org.orderlyferry.columnar.parquet;

import java.util.List;
import org.apache.parquet.column.page.PageReadStore;
import org.apache.parquet.filter2.compat.FilterCompat;
import org.apache.parquet.io.ColumnIOFactory;
import org.apache.parquet.io.MessageColumnIO;
import org.apache.parquet.schema.MessageType;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Reads a file's records, one group of rows after the other. */
final class RowGroupsReader implements RecordReader {

    private final ParquetInput input;
    private final String shown;
    private final TableDefinition table;
    private final Rejects rejects;
    private final MessageType wanted;
    private final MessageColumnIO columns;
    private final int[] places;
    private org.apache.parquet.io.@Nullable RecordReader<Object[]> group;
    private long left;
    private long record;

    /**
     * A reader.
     *
     * @param table the table with the columns to be given
     * @param names its columns
     * @param first the number of the first record, from 1
     */
    RowGroupsReader(
            ParquetInput input, String shown, TableDefinition table, List<String> names, long first, Rejects rejects) {
        this.input = input;
        this.shown = shown;
        this.table = table;
        this.rejects = rejects;
        this.record = first - 1;
        MessageType all = input.schema();
        List<String> known = input.names();
        List<Integer> asked = names.stream().map(known::indexOf).toList();
        List<Integer> sorted = asked.stream().sorted().distinct().toList();
        this.wanted =
                new MessageType(all.getName(), sorted.stream().map(all::getType).toList());
        this.places = asked.stream().mapToInt(sorted::indexOf).toArray();
        input.reader().setRequestedSchema(wanted);
        this.columns = new ColumnIOFactory(input.madeBy()).getColumnIO(wanted, all);
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(places.length, table.name().toString(), shown, true);
        input.read(() -> {
            while (!batch.isFull() && hasRow()) {
                left--;
                record++;
                record(group.read(), batch);
            }
            return null;
        });
        return batch.rows() > 0;
    }

    private boolean hasRow() throws java.io.IOException {
        while (left == 0) {
            PageReadStore pages = input.reader().readNextRowGroup();
            if (pages == null) {
                return false;
            }
            left = pages.getRowCount();
            group = columns.getRecordReader(pages, new Slots(wanted), FilterCompat.NOOP);
        }
        return true;
    }

    private void record(Object[] values, RecordBatch batch) {
        for (int i = 0; i < places.length; i++) {
            Object value = values[places[i]];
            if (value == null) {
                batch.addNull();
            } else if (value instanceof String text) {
                batch.add(text);
            } else if (value instanceof byte[] bytes) {
                batch.add(bytes);
            } else if (value instanceof Slots.Bad bad) {
                batch.dropRow();
                rejects.reject(new BadValueException(
                        new Origin(table.name().toString(), shown, record, true),
                        table.columns().get(i).name(),
                        bad.text(),
                        bad.reason()));
                return;
            }
        }
        batch.endRow(record);
    }

    @Override
    public void close() {
        input.close();
    }
}
