package org.orderlyferry.record.fit;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.Screen;
import org.orderlyferry.record.text.InvalidValueException;

/**
 * Looks at values as they would be once they were brought to a target's columns, and leaves them as they are. Not safe for use
 * by several threads.
 */
public final class Screening implements Screen {

    /** What of a column's values can't be held, beyond what its type says. */
    @FunctionalInterface
    public interface Limit {

        /** All that its type allows. */
        Limit NONE = (batch, row, column) -> {};

        /**
         * Looks at a value that is no null.
         *
         * @throws InvalidValueException if it can't be held
         */
        void check(Records batch, int row, int column) throws InvalidValueException;
    }

    private final List<ColumnFit> columns;
    private final List<Limit> limits;
    private final RecordBatch one = new RecordBatch();
    private final Screen each = Screen.by(this::record);

    /**
     * For records of some columns.
     *
     * @param from the columns as records have them
     * @param to the columns that would take them, in the same order
     * @param limits for each of these
     */
    public Screening(List<ColumnDefinition> from, List<ColumnDefinition> to, List<Limit> limits) {
        this.columns = ColumnFit.between(from, to);
        this.limits = List.copyOf(limits);
    }

    @Override
    public void screen(RecordBatch batch, Rejects rejects) {
        each.screen(batch, rejects);
    }

    private void record(RecordBatch batch, int row) {
        for (int column = 0; column < columns.size(); column++) {
            ColumnFit fit = columns.get(column);
            if (!batch.isNull(row, column)) {
                try {
                    look(batch, row, column, fit.conversion());
                } catch (InvalidValueException e) {
                    throw fit.misfit(batch, row, column, e);
                }
            } else if (fit.required()) {
                throw fit.missing(batch, row);
            }
        }
    }

    private void look(RecordBatch batch, int row, int column, @Nullable Conversion conversion)
            throws InvalidValueException {
        if (conversion == null) {
            limits.get(column).check(batch, row, column);
            return;
        }
        one.start(1, "", "", false);
        one.add(batch.bytes(), batch.start(row, column), batch.end(row, column));
        one.endRow(1);
        conversion.apply(one, 0, 0);
        limits.get(column).check(one, 0, 0);
    }
}
