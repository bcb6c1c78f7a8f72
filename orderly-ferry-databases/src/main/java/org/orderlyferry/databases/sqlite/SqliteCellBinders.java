package org.orderlyferry.databases.sqlite;

import org.orderlyferry.databases.CellBinder;
import org.orderlyferry.databases.LoadNotes;
import org.orderlyferry.databases.SignedZero;
import org.orderlyferry.databases.StandardCells;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.InvalidValueException;
import org.orderlyferry.record.JavaValues;

/** How SQLite takes values of each type. */
final class SqliteCellBinders {

    private SqliteCellBinders() {}

    static CellBinder of(TableName table, ColumnDefinition to, LoadNotes notes) {
        return switch (to.type().name()) {
            case BOOLEAN ->
                (statement, i, batch, row, column) ->
                        statement.setInt(i, batch.bytes()[batch.start(row, column)] == 't' ? 1 : 0);
            case REAL, DOUBLE ->
                (statement, i, batch, row, column) ->
                        statement.setDouble(i, floating(batch.text(row, column), table, to, notes));
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                (statement, i, batch, row, column) ->
                        statement.setString(i, batch.text(row, column).replace('T', ' '));
            case DECIMAL -> (statement, i, batch, row, column) -> statement.setString(i, batch.text(row, column));
            default -> StandardCells.binder(to.type());
        };
    }

    private static double floating(String text, TableName table, ColumnDefinition column, LoadNotes notes)
            throws InvalidValueException {
        double value = JavaValues.doubleOf(text);
        if (Double.isNaN(value)) {
            throw new InvalidValueException("can't be held: SQLite would make a null of it");
        }
        SignedZero.note(value, table, column.name(), SqliteDialect.SYSTEM, notes);
        return value;
    }
}
