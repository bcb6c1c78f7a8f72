package org.orderlyferry.databases.h2;

import java.util.UUID;
import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.lane.JavaTimeCells;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** How H2's driver gives and takes values of each type. */
final class H2Cells {

    private H2Cells() {}

    static CellReader reader(LogicalType type) {
        return JavaTimeCells.reader(type);
    }

    static CellBinder binder(LogicalType type) {
        return type.name() == TypeName.UUID
                ? (statement, i, batch, row, column) -> statement.setObject(i, UUID.fromString(batch.text(row, column)))
                : JavaTimeCells.binder(type);
    }
}
