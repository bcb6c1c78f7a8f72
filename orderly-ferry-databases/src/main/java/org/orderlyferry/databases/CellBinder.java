package org.orderlyferry.databases;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import org.orderlyferry.record.InvalidValueException;
import org.orderlyferry.record.RecordBatch;

/** Gives one value of a batch to a prepared statement; never asked for a null. */
@FunctionalInterface
public interface CellBinder {

    /**
     * Binds the value.
     *
     * @throws InvalidValueException if the system can't hold it
     */
    void bind(PreparedStatement statement, int index, RecordBatch batch, int row, int column)
            throws SQLException, InvalidValueException;
}
