package org.orderlyferry.record.fit;

import java.util.List;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.problem.BadValueException;
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

    /** What of a whole record can't be held. */
    public interface Rule {

        /** Of which columns' values, by their places. */
        List<Integer> columns();

        /**
         * Looks at a record.
         *
         * @param values its values, by their columns' places, as the target's columns would hold them; null for a null
         * @throws InvalidValueException if it can't be held
         */
        void check(IntFunction<@Nullable String> values) throws InvalidValueException;
    }

    private final List<ColumnFit> columns;
    private final List<Limit> limits;
    private final List<Rule> rules;
    private final RecordBatch one = new RecordBatch();
    private final Screen each = Screen.by(this::record);

    /**
     * For records of some columns.
     *
     * @param from the columns as records have them
     * @param to the columns that would take them, in the same order
     * @param limits for each of these
     * @param rules for records of which every value can be held
     */
    public Screening(List<ColumnDefinition> from, List<ColumnDefinition> to, List<Limit> limits, List<Rule> rules) {
        this.columns = ColumnFit.between(from, to);
        this.limits = List.copyOf(limits);
        this.rules = List.copyOf(rules);
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
        for (Rule rule : rules) {
            try {
                rule.check(column -> fitted(batch, row, column));
            } catch (InvalidValueException e) {
                throw broken(rule, batch, row, e);
            }
        }
    }

    private BadValueException broken(Rule rule, RecordBatch batch, int row, InvalidValueException why) {
        String names =
                rule.columns().stream().map(c -> columns.get(c).to().name()).collect(Collectors.joining(", "));
        return new BadValueException(batch.origin(row), names, shown(rule, batch, row), why.getMessage());
    }

    /** A null among others has to be told from a text. */
    private static @Nullable String shown(Rule rule, RecordBatch batch, int row) {
        if (rule.columns().size() == 1 && batch.isNull(row, rule.columns().get(0))) {
            return null;
        }
        return rule.columns().stream()
                .map(c -> batch.isNull(row, c) ? "null" : batch.text(row, c))
                .collect(Collectors.joining(", "));
    }

    private @Nullable String fitted(RecordBatch batch, int row, int column) {
        Conversion conversion = columns.get(column).conversion();
        if (batch.isNull(row, column) || conversion == null) {
            return batch.isNull(row, column) ? null : batch.text(row, column);
        }
        try {
            apply(conversion, batch, row, column);
            return one.text(0, 0);
        } catch (InvalidValueException e) {
            throw new IllegalStateException("a value that was found to fit doesn't", e);
        }
    }

    private void look(RecordBatch batch, int row, int column, @Nullable Conversion conversion)
            throws InvalidValueException {
        if (conversion == null) {
            limits.get(column).check(batch, row, column);
            return;
        }
        apply(conversion, batch, row, column);
        limits.get(column).check(one, 0, 0);
    }

    private void apply(Conversion conversion, RecordBatch batch, int row, int column) throws InvalidValueException {
        one.start(1, "", "", false);
        one.add(batch.bytes(), batch.start(row, column), batch.end(row, column));
        one.endRow(1);
        conversion.apply(one, 0, 0);
    }
}
