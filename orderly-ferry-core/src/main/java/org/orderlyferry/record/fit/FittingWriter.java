package org.orderlyferry.record.fit;

import java.util.List;
import java.util.function.Consumer;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.text.InvalidValueException;

/** Brings values to the types of the columns that another writer writes to, and refuses those that don't fit. */
public final class FittingWriter implements RecordWriter {

    private final RecordWriter writer;
    private final List<ColumnDefinition> to;
    private final Conversion[] conversions;
    private final boolean[] required;
    private final Consumer<BadValueException> misfits;

    /**
     * Records of some columns, for columns of other types.
     *
     * @param from the columns as records have them
     * @param to the columns that take them, in the same order
     * @param misfits hears of each value that doesn't fit; what it doesn't throw lets the others go on
     */
    public FittingWriter(
            RecordWriter writer,
            List<ColumnDefinition> from,
            List<ColumnDefinition> to,
            Consumer<BadValueException> misfits) {
        this.misfits = misfits;
        this.writer = writer;
        this.to = List.copyOf(to);
        this.conversions = new Conversion[to.size()];
        this.required = new boolean[to.size()];
        for (int i = 0; i < conversions.length; i++) {
            conversions[i] = Conversion.between(from.get(i).type(), to.get(i).type());
            required[i] = from.get(i).nullable() && !to.get(i).nullable();
        }
    }

    @Override
    public void write(RecordBatch batch) {
        for (int column = 0; column < conversions.length; column++) {
            if (conversions[column] != null || required[column]) {
                fit(batch, column);
            }
        }
        writer.write(batch);
    }

    private void fit(RecordBatch batch, int column) {
        for (int row = 0; row < batch.rows(); row++) {
            if (batch.isNull(row, column)) {
                if (required[column]) {
                    misfits.accept(new BadValueException(
                            batch.origin(row), to.get(column).name(), null, "isn't allowed: the column is NOT NULL"));
                }
            } else if (conversions[column] != null) {
                try {
                    conversions[column].apply(batch, row, column);
                } catch (InvalidValueException e) {
                    misfits.accept(new BadValueException(
                            batch.origin(row), to.get(column).name(), batch.text(row, column), e.getMessage()));
                }
            }
        }
    }

    @Override
    public void finish() {
        writer.finish();
    }

    @Override
    public void close() {
        writer.close();
    }
}
