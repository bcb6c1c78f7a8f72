package org.orderlyferry.databases.loading;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.orderlyferry.databases.check.CheckRule;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;
import org.orderlyferry.record.fit.FittingWriter;
import org.orderlyferry.record.fit.Screening;

/**
 * The way of one table's records: which columns they have, and which take them.
 *
 * @param from the columns as records have them
 * @param into the table that is loaded, with the columns that take the values, in the records' order
 * @param texts which of the characters of their values the columns can't hold
 * @param changedOnArrival whether the target may change records before its checks look at them
 */
record Route(
        Arrival arrival,
        List<ColumnDefinition> from,
        TableDefinition into,
        List<ValueLimit> texts,
        boolean changedOnArrival) {

    /** The way of a new table that looks otherwise. */
    Route withTable(TableDefinition other) {
        return new Route(
                arrival.withTable(other),
                from,
                other.toBuilder().name(into.name()).build(),
                texts,
                changedOnArrival);
    }

    /** Takes records out that the target can't hold; what it has to say of others, a writer says. */
    Screen screen(Writing writing) {
        LoadNotes unheard = new LoadNotes();
        List<Screening.Limit> limits = limits(writing, unheard).stream()
                .map(limit -> (Screening.Limit) limit::check)
                .toList();
        List<Screening.Rule> rules = changedOnArrival ? List.of() : CheckRule.of(arrival.table(), into.columnNames());
        return new Screening(from, into.columns(), limits, rules);
    }

    /** A writer that takes records as the source has them, and hands them on as the target can hold them. */
    RecordWriter fitted(RecordWriter writer, Writing writing, LoadNotes notes, Consumer<BadValueException> misfits) {
        List<ValueLimit> limits = limits(writing, notes);
        RecordWriter limited = limits.stream().allMatch(l -> l == ValueLimit.NONE)
                ? writer
                : new LimitedWriter(writer, into.columns(), limits, misfits);
        return new FittingWriter(limited, from, into.columns(), misfits);
    }

    private List<ValueLimit> limits(Writing writing, LoadNotes notes) {
        List<ValueLimit> limits = new ArrayList<>();
        for (int i = 0; i < into.columns().size(); i++) {
            ColumnDefinition column = into.columns().get(i);
            ValueLimit limit =
                    column.generation().isPresent() ? ValueLimit.NONE : writing.limit(arrival.name(), column, notes);
            ValueLimit text = texts.get(i);
            limits.add(text == ValueLimit.NONE ? limit : limit == ValueLimit.NONE ? text : limit.and(text));
        }
        return limits;
    }
}
