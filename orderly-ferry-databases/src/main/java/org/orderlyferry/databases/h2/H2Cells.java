package org.orderlyferry.databases.h2;

import java.math.BigDecimal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Set;
import java.util.UUID;
import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.lane.JavaTimeCells;
import org.orderlyferry.databases.lane.StandardCells;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.InvalidValueException;

/** How H2's driver gives and takes values of each type. */
final class H2Cells {

    private static final Set<String> NO_NUMBERS = Set.of("NaN", "Infinity", "-Infinity");

    private H2Cells() {}

    static CellReader reader(LogicalType type) {
        return type.name() == TypeName.DECIMAL ? H2Cells::decimal : JavaTimeCells.reader(type);
    }

    /** A DECFLOAT may be infinite, or no number; the driver gives such a one as a text alone. */
    private static void decimal(ResultSet row, int index, RecordBatch batch)
            throws SQLException, InvalidValueException {
        BigDecimal value;
        try {
            value = row.getBigDecimal(index);
        } catch (SQLException e) {
            if (NO_NUMBERS.contains(row.getString(index))) {
                throw InvalidValueException.outOfRange("is no decimal number that another system could hold");
            }
            throw e;
        }
        CellReader.text(StandardCells.plain(value), batch);
    }

    static CellBinder binder(LogicalType type) {
        return type.name() == TypeName.UUID
                ? (statement, i, batch, row, column) -> statement.setObject(i, UUID.fromString(batch.text(row, column)))
                : JavaTimeCells.binder(type);
    }
}
