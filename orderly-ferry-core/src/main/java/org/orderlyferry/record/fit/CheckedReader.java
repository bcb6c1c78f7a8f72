package org.orderlyferry.record.fit;

import java.util.List;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.EachRecordReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.ValueText;

/**
 * Sees to it that every value that another reader gives fits its column's type, length and nullability, and brings it
 * into its proper form.
 */
public final class CheckedReader extends EachRecordReader {

    private final List<ColumnDefinition> columns;
    private final ValueText[] texts;

    /** A reader that stops at the first value that doesn't fit. */
    public CheckedReader(RecordReader reader) {
        this(reader, Rejects.STOP);
    }

    /** Checks what another reader gives. */
    public CheckedReader(RecordReader reader, Rejects rejects) {
        super(reader, rejects);
        this.columns = reader.table().columns();
        this.texts = columns.stream().map(c -> ValueText.of(c.type())).toArray(ValueText[]::new);
    }

    @Override
    protected void look(RecordBatch batch, int row) {
        for (int column = 0; column < texts.length; column++) {
            check(batch, row, column);
        }
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
}
