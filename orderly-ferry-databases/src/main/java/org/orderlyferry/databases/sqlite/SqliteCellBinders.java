package org.orderlyferry.databases.sqlite;

import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.lane.StandardCells;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.record.text.JavaValues;

/** How SQLite takes values of each type. */
final class SqliteCellBinders {

    private SqliteCellBinders() {}

    /** Whether values are texts as they are, which can be given as their bytes. */
    static boolean isText(LogicalType type) {
        return switch (type.name()) {
            case CHARACTER, VARCHAR, CLOB, JSON, XML, UUID, INTERVAL, ARRAY -> true;
            default -> false;
        };
    }

    static CellBinder of(LogicalType type, boolean asBytes) {
        if (asBytes && isText(type)) {
            return (statement, i, batch, row, column) -> statement.setBytes(i, batch.copy(row, column));
        }
        return switch (type.name()) {
            case BOOLEAN ->
                (statement, i, batch, row, column) ->
                        statement.setInt(i, batch.bytes()[batch.start(row, column)] == 't' ? 1 : 0);
            case REAL, DOUBLE ->
                (statement, i, batch, row, column) ->
                        statement.setDouble(i, JavaValues.doubleOf(batch.text(row, column)));
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                (statement, i, batch, row, column) ->
                        statement.setString(i, batch.text(row, column).replace('T', ' '));
            case DECIMAL -> (statement, i, batch, row, column) -> statement.setString(i, batch.text(row, column));
            default -> StandardCells.binder(type);
        };
    }
}
