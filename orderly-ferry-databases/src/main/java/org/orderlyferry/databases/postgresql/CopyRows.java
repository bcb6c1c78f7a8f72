package org.orderlyferry.databases.postgresql;

import java.sql.SQLException;
import org.orderlyferry.record.Records;

/** Records in one of the forms that PostgreSQL's COPY takes. Not safe for use by several threads. */
interface CopyRows {

    /** Sends what has been put, up to a length. */
    @FunctionalInterface
    interface Wire {
        void send(byte[] bytes, int length) throws SQLException;
    }

    /** What the COPY statement says of the form, behind {@code FROM STDIN}. */
    String clause();

    /**
     * Puts a record, and sends when much has come together.
     *
     * @return false, and nothing is put, if this form has no way to say it
     */
    boolean put(Records batch, int row, Wire wire) throws SQLException;

    /** Sends what is left, and the form's end. */
    void end(Wire wire) throws SQLException;
}
