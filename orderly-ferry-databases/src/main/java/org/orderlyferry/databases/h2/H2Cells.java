package org.orderlyferry.databases.h2;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.util.UUID;
import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.lane.StandardCells;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.record.text.JavaValues;

/** How H2's driver gives and takes values of each type. */
final class H2Cells {

    private H2Cells() {}

    static CellReader reader(LogicalType type) {
        return switch (type.name()) {
            case DATE ->
                (row, i, batch) -> {
                    LocalDate value = row.getObject(i, LocalDate.class);
                    CellReader.text(value == null ? null : JavaValues.text(value), batch);
                };
            case TIME ->
                (row, i, batch) -> {
                    LocalTime value = row.getObject(i, LocalTime.class);
                    CellReader.text(value == null ? null : JavaValues.text(value), batch);
                };
            case TIMESTAMP ->
                (row, i, batch) -> {
                    LocalDateTime value = row.getObject(i, LocalDateTime.class);
                    CellReader.text(value == null ? null : JavaValues.text(value), batch);
                };
            case TIMESTAMP_WITH_TIME_ZONE ->
                (row, i, batch) -> {
                    OffsetDateTime value = row.getObject(i, OffsetDateTime.class);
                    CellReader.text(value == null ? null : JavaValues.text(value), batch);
                };
            default -> StandardCells.reader(type);
        };
    }

    static CellBinder binder(LogicalType type) {
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
            case DATE ->
                (statement, i, batch, row, column) -> statement.setObject(i, JavaValues.date(batch.text(row, column)));
            case TIME ->
                (statement, i, batch, row, column) -> statement.setObject(i, LocalTime.parse(batch.text(row, column)));
            case TIMESTAMP ->
                (statement, i, batch, row, column) ->
                        statement.setObject(i, JavaValues.timestamp(batch.text(row, column)));
            case TIMESTAMP_WITH_TIME_ZONE ->
                (statement, i, batch, row, column) ->
                        statement.setObject(i, JavaValues.instant(batch.text(row, column)));
            case UUID ->
                (statement, i, batch, row, column) -> statement.setObject(i, UUID.fromString(batch.text(row, column)));
            default -> StandardCells.binder(type);
        };
    }
}
