package org.orderlyferry.databases.lane;

import java.util.List;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.InvalidValueException;

/** What becomes of values of a table that can't travel, while it is read. */
public final class OutOfRangeCells {

    private final TableDefinition table;
    private final OutOfRange outOfRange;
    private final LoadNotes notes = new LoadNotes();

    public OutOfRangeCells(TableDefinition table, OutOfRange outOfRange) {
        this.table = table;
        this.outOfRange = outOfRange;
    }

    /**
     * Puts a null in a value's place where that is wanted and allowed.
     *
     * @throws BadValueException if it isn't
     */
    public void handle(RecordBatch batch, Origin origin, int column, String value, InvalidValueException e) {
        ColumnDefinition definition = table.columns().get(column);
        if (outOfRange == OutOfRange.REFUSE || !definition.nullable() || !e.isOutOfRange()) {
            String hint = e.isOutOfRange() && definition.nullable() ? "; the option out-of-range can make it null" : "";
            throw new BadValueException(origin, definition.name(), value, e.getMessage() + hint);
        }
        batch.addNull();
        notes.value(
                table.name(),
                definition.name(),
                "such as " + BadValueException.shown(value),
                "became null: it " + e.getMessage());
    }

    public List<Finding> findings() {
        return notes.findings();
    }
}
