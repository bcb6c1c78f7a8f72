package org.orderlyferry.databases.lane;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.JavaValues;

/**
 * How drivers of JDBC 4.2 have values given and taken: dates and times by {@code java.time}, which no zone of this machine
 * shifts, and all else as {@link StandardCells} has it.
 */
public final class JavaTimeCells {

    private JavaTimeCells() {}

    /** Reads a column. */
    public static CellReader reader(LogicalType type) {
        return type.name() == TypeName.DATE || type.name().isTimed()
                ? (row, i, batch) -> CellReader.text(text(type.name(), row, i), batch)
                : StandardCells.reader(type);
    }

    private static String text(TypeName type, ResultSet row, int i) throws SQLException {
        return switch (type) {
            case DATE -> {
                LocalDate value = row.getObject(i, LocalDate.class);
                yield value == null ? null : JavaValues.text(value);
            }
            case TIME -> {
                LocalTime value = row.getObject(i, LocalTime.class);
                yield value == null ? null : JavaValues.text(value);
            }
            case TIMESTAMP -> {
                LocalDateTime value = row.getObject(i, LocalDateTime.class);
                yield value == null ? null : JavaValues.text(value);
            }
            default -> {
                OffsetDateTime value = row.getObject(i, OffsetDateTime.class);
                yield value == null ? null : JavaValues.text(value);
            }
        };
    }

    /** Gives values to a column; truth values and floating point numbers as such, too. */
    public static CellBinder binder(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN ->
                (statement, i, batch, row, column) ->
                        statement.setBoolean(i, batch.bytes()[batch.start(row, column)] == 't');
            case REAL ->
                (statement, i, batch, row, column) ->
                        statement.setFloat(i, JavaValues.floatOf(batch.text(row, column)));
            case DOUBLE ->
                (statement, i, batch, row, column) ->
                        statement.setDouble(i, JavaValues.doubleOf(batch.text(row, column)));
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                (statement, i, batch, row, column) ->
                        statement.setObject(i, value(type.name(), batch.text(row, column)));
            default -> StandardCells.binder(type);
        };
    }

    /** The date or the time that a value text stands for. */
    public static Object value(TypeName type, String text) {
        return switch (type) {
            case DATE -> JavaValues.date(text);
            case TIME -> LocalTime.parse(text);
            case TIMESTAMP -> JavaValues.timestamp(text);
            default -> JavaValues.instant(text);
        };
    }
}
