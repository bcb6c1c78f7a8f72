package org.orderlyferry.databases.dialect;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import org.apiguardian.api.API;
import org.orderlyferry.record.Records;

/** Gives one value of a batch to a prepared statement; never asked for a null, nor for what a limit forbids. */
@FunctionalInterface
@API(status = API.Status.INTERNAL)
public interface CellBinder {

    void bind(PreparedStatement statement, int index, Records batch, int row, int column) throws SQLException;
}
