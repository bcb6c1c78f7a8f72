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
    private final List<ColumnFit> columns;
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
        this.columns = ColumnFit.between(from, to);
    }

    @Override
    public void write(RecordBatch batch) {
        for (int column = 0; column < columns.size(); column++) {
            ColumnFit fit = columns.get(column);
            if (fit.conversion() != null || fit.required()) {
                fit(batch, column, fit);
            }
        }
        writer.write(batch);
    }

    private void fit(RecordBatch batch, int column, ColumnFit fit) {
        Conversion conversion = fit.conversion();
        for (int row = 0; row < batch.rows(); row++) {
            if (batch.isNull(row, column)) {
                if (fit.required()) {
                    misfits.accept(fit.missing(batch, row));
                }
            } else if (conversion != null) {
                try {
                    conversion.apply(batch, row, column);
                } catch (InvalidValueException e) {
                    misfits.accept(fit.misfit(batch, row, column, e));
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
