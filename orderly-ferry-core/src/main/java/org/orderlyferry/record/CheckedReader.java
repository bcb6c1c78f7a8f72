package org.orderlyferry.record;

import java.util.List;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;

/**
 * Sees to it that every value that another reader gives fits its column's type, length and nullability, and brings it
 * into its proper form.
 */
public final class CheckedReader implements RecordReader {

    private final RecordReader reader;
    private final List<ColumnDefinition> columns;
    private final ValueText[] texts;
    private final Rejects rejects;

    /** A reader that stops at the first value that doesn't fit. */
    public CheckedReader(RecordReader reader) {
        this(reader, Rejects.STOP);
    }

    public CheckedReader(RecordReader reader, Rejects rejects) {
        this.rejects = rejects;
        this.reader = reader;
        this.columns = reader.table().columns();
        this.texts = columns.stream().map(c -> ValueText.of(c.type())).toArray(ValueText[]::new);
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
                    for (int column = 0; column < texts.length; column++) {
                        check(batch, row, column);
                    }
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

    private void check(RecordBatch batch, int row, int column) {
        int end = batch.end(row, column);
        if (end < 0) {
            if (!columns.get(column).nullable()) {
                throw new BadValueException(
                        batch.origin(row), columns.get(column).name(), null, "isn't allowed: the column is NOT NULL");
            }
            return;
        }
        ValueText text = texts[column];
        if (!text.isProper(batch.bytes(), batch.start(row, column), end)) {
            String value = batch.text(row, column);
            try {
                batch.replace(row, column, text.toProper(value).getBytes(java.nio.charset.StandardCharsets.UTF_8));
            } catch (InvalidValueException e) {
                throw new BadValueException(
                        batch.origin(row), columns.get(column).name(), value, e.getMessage());
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
