package org.orderlyferry.databases.dialect;

import java.sql.ResultSet;
import java.sql.SQLException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.InvalidValueException;

/** Reads one value of a result's row into a batch, as value text. */
@FunctionalInterface
public interface CellReader {

    /**
     * Adds the value to the batch's current record.
     *
     * @throws InvalidValueException if the value can't travel
     */
    void read(ResultSet row, int index, RecordBatch batch) throws SQLException, InvalidValueException;

    /** Adds text, or a null. */
    static void text(String value, RecordBatch batch) throws InvalidValueException {
        if (value == null) {
            batch.addNull();
        } else if (!batch.add(value)) {
            throw new InvalidValueException("holds half of a surrogate pair, which no encoding of Unicode has");
        }
    }

    /** Adds bytes, or a null. */
    static void bytes(byte[] value, RecordBatch batch) {
        if (value == null) {
            batch.addNull();
        } else {
            batch.add(value);
        }
    }
}
