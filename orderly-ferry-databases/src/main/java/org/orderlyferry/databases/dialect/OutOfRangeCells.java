package org.orderlyferry.databases.dialect;

import java.util.List;
import org.apiguardian.api.API;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;

/**
 * What becomes of values of a table that can't travel, while it is read: nulls, if that is wanted; else their record is rejected. For
 * one reader.
 */
@API(status = API.Status.INTERNAL)
public final class OutOfRangeCells {

    private final TableDefinition table;
    private final OutOfRange outOfRange;
    private final Rejects rejects;
    private final LoadNotes notes = new LoadNotes();
    private @Nullable Bad bad;

    /** The first of a record's values that can't travel. */
    private record Bad(String column, String value, String reason) {}

    /**
     * Of a table.
     *
     * @param rejects hears of records that don't come
     */
    public OutOfRangeCells(TableDefinition table, OutOfRange outOfRange, Rejects rejects) {
        this.table = table;
        this.outOfRange = outOfRange;
        this.rejects = rejects;
    }

    /** The first one ends the reading. */
    public static OutOfRangeCells refusing(TableDefinition table) {
        return new OutOfRangeCells(table, OutOfRange.REFUSE, Rejects.STOP);
    }

    /** Puts a null in a value's place; whether its record comes, tells its end. */
    public void handle(RecordBatch batch, int column, String value, InvalidValueException e) {
        ColumnDefinition definition = table.columns().get(column);
        batch.addNull();
        if (outOfRange == OutOfRange.REFUSE || !definition.nullable() || !e.isOutOfRange()) {
            String hint = e.isOutOfRange() && definition.nullable() ? "; the option out-of-range can make it null" : "";
            bad = bad == null ? new Bad(definition.name(), value, e.getMessage() + hint) : bad;
            return;
        }
        notes.value(
                table.name(),
                definition.name(),
                "such as " + BadValueException.shown(value),
                "became null: it " + e.getMessage());
    }

    /**
     * Ends a record, or rejects it by the first of its values that can't travel.
     *
     * @throws FerryException if whoever hears of it throws it
     */
    public void endRow(RecordBatch batch, long record) {
        if (bad == null) {
            batch.endRow(record);
            return;
        }
        // now that all of it is there, its key is known
        FerryException why = new BadValueException(batch.originOf(record), bad.column, bad.value, bad.reason);
        bad = null;
        batch.dropRow();
        rejects.reject(why);
    }

    /** What became null. */
    public List<Finding> findings() {
        return notes.findings();
    }
}
