package org.orderlyferry.format;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.InvalidValueException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Brings values that a file writes in another way to their value text. */
public final class StyledReader implements RecordReader {

    private final RecordReader reader;
    private final List<ColumnDefinition> columns;
    private final ValueStyle[] styles;

    private final Rejects rejects;

    private StyledReader(RecordReader reader, ValueStyle[] styles, Rejects rejects) {
        this.rejects = rejects;
        this.reader = reader;
        this.columns = reader.table().columns();
        this.styles = styles;
    }

    /** The reader itself where no value looks other than its value text. */
    public static RecordReader of(RecordReader reader, Map<String, ValueStyle> byColumn, Rejects rejects) {
        List<ColumnDefinition> columns = reader.table().columns();
        ValueStyle[] styles = new ValueStyle[columns.size()];
        boolean any = false;
        for (int i = 0; i < styles.length; i++) {
            ValueStyle style = byColumn.get(columns.get(i).name());
            if (style != null && style.changes(columns.get(i).type())) {
                styles[i] = style;
                any = true;
            }
        }
        return any ? new StyledReader(reader, styles, rejects) : reader;
    }

    @Override
    public TableDefinition table() {
        return reader.table();
    }

    @Override
    public boolean read(RecordBatch batch) {
        while (reader.read(batch)) {
            boolean[] unwanted = null;
            for (int row = 0; row < batch.rows(); row++) {
                try {
                    read(batch, row);
                } catch (BadValueException e) {
                    rejects.reject(e);
                    unwanted = unwanted == null ? new boolean[batch.rows()] : unwanted;
                    unwanted[row] = true;
                }
            }
            if (unwanted != null) {
                batch.removeRows(unwanted);
            }
            if (batch.rows() > 0) {
                return true;
            }
        }
        return false;
    }

    private void read(RecordBatch batch, int row) {
        for (int column = 0; column < styles.length; column++) {
            if (styles[column] != null && !batch.isNull(row, column)) {
                ColumnDefinition definition = columns.get(column);
                String text = batch.text(row, column);
                try {
                    String value = styles[column].read(text, definition.type());
                    if (!value.equals(text)) {
                        batch.replace(row, column, value.getBytes(StandardCharsets.UTF_8));
                    }
                } catch (InvalidValueException e) {
                    throw new BadValueException(batch.origin(row), definition.name(), text, e.getMessage());
                }
            }
        }
    }

    @Override
    public List<Finding> findings() {
        return reader.findings();
    }

    @Override
    public void close() {
        reader.close();
    }
}
