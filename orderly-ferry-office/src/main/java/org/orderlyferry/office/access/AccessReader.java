package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.Column;
import com.healthmarketscience.jackcess.Cursor;
import com.healthmarketscience.jackcess.Row;
import com.healthmarketscience.jackcess.Table;
import java.io.IOException;
import java.util.List;
import org.orderlyferry.format.OpenedFiles;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;

/** Reads a table's records in the order in which they stand in the file. */
final class AccessReader implements RecordReader {

    private final OpenedFiles.Lent<AccessInput> input;
    private final String shown;
    private final TableDefinition table;
    private final List<Column> columns;
    private final List<String> names;
    private final Cursor cursor;
    private final Rejects rejects;
    private long record;

    /**
     * A reader.
     *
     * @param columns of the file, for each of the table's
     */
    AccessReader(
            OpenedFiles.Lent<AccessInput> input,
            String shown,
            TableDefinition table,
            Table of,
            List<Column> columns,
            Rejects rejects) {
        this.input = input;
        this.shown = shown;
        this.table = table;
        this.columns = columns;
        this.names = columns.stream().map(Column::getName).toList();
        this.cursor = of.getDefaultCursor();
        this.rejects = rejects;
        cursor.beforeFirst();
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(columns.size(), table.name().toString(), shown, true);
        try {
            while (!batch.isFull()) {
                Row row = cursor.getNextRow(names);
                if (row == null) {
                    break;
                }
                record++;
                record(row, batch);
            }
        } catch (IOException | IllegalStateException | ArithmeticException | IndexOutOfBoundsException e) {
            throw input.opened().failed(e);
        }
        return batch.rows() > 0;
    }

    private void record(Row row, RecordBatch batch) {
        for (int i = 0; i < columns.size(); i++) {
            Object value = columns.get(i).getRowValue(row);
            ColumnDefinition column = table.columns().get(i);
            try {
                AccessValues.read(value, column.type(), batch);
            } catch (InvalidValueException e) {
                batch.dropRow();
                rejects.reject(new BadValueException(
                        new Origin(table.name().toString(), shown, record, true),
                        column.name(),
                        String.valueOf(value),
                        e.getMessage()));
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
