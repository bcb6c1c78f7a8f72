package org.orderlyferry.databases.loading;

import java.util.List;
import java.util.function.Consumer;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;

/** Sees to it that no value reaches another writer that the system would refuse or change. */
final class LimitedWriter implements RecordWriter {

    private final RecordWriter writer;
    private final List<ColumnDefinition> columns;
    private final List<ValueLimit> limits;
    private final Consumer<BadValueException> misfits;

    LimitedWriter(
            RecordWriter writer,
            List<ColumnDefinition> columns,
            List<ValueLimit> limits,
            Consumer<BadValueException> misfits) {
        this.writer = writer;
        this.columns = columns;
        this.limits = limits;
        this.misfits = misfits;
    }

    @Override
    public void write(RecordBatch batch) {
        for (int column = 0; column < limits.size(); column++) {
            ValueLimit limit = limits.get(column);
            if (limit != ValueLimit.NONE) {
                check(limit, batch, column);
            }
        }
        writer.write(batch);
    }

    private void check(ValueLimit limit, Records batch, int column) {
        for (int row = 0; row < batch.rows(); row++) {
            if (!batch.isNull(row, column)) {
                try {
                    limit.check(batch, row, column);
                } catch (InvalidValueException e) {
                    misfits.accept(new BadValueException(
                            batch.origin(row), columns.get(column).name(), batch.text(row, column), e.getMessage()));
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
