package org.orderlyferry.databases.postgresql;

import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.List;
import org.orderlyferry.databases.dialect.OutOfRangeCells;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.text.InvalidValueException;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyOut;
import org.postgresql.util.PSQLState;

/** Reads by COPY, in binary form, which the server sends at half the cost of text. */
final class CopyOutReader implements RecordReader {

    /** Eleven bytes of signature, flags, and the length of an extension that never came to be. */
    private static final int HEADER = 19;

    private final Session session;
    private final TableDefinition table;
    private final OutOfRangeCells outOfRange;
    private final Savepoint before;
    private final CopyOut copy;
    private final BinaryField[] fields;
    private long record;
    private boolean started;
    private boolean ended;

    /**
     * Begins to read.
     *
     * @param encoded whether the server sees to it that texts are some
     */
    CopyOutReader(Session session, TableDefinition table, String sql, boolean encoded, OutOfRangeCells outOfRange)
            throws SQLException {
        this.session = session;
        this.table = table;
        this.outOfRange = outOfRange;
        this.fields =
                table.columns().stream().map(c -> BinaryField.of(c, encoded)).toArray(BinaryField[]::new);
        this.before = session.connection().setSavepoint();
        this.copy = session.connection()
                .unwrap(PGConnection.class)
                .getCopyAPI()
                .copyOut("COPY (" + sql + ") TO STDOUT (FORMAT binary)");
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(table, session.address());
        try {
            while (!ended && !batch.isFull()) {
                byte[] message = copy.readFromCopy();
                if (message == null) {
                    ended = true;
                } else {
                    take(message, batch);
                }
            }
        } catch (SQLException e) {
            throw session.failed("table " + table.name() + ", record " + (record + 1) + " can't be read", e);
        }
        return batch.rows() > 0;
    }

    /** Takes the records of one message; the server sends one in each, and the head before the first. */
    private void take(byte[] message, RecordBatch batch) throws SQLException {
        int at = 0;
        if (!started) {
            started = true;
            at = HEADER;
        }
        while (at + 2 <= message.length) {
            int count = (short) ((message[at] & 0xFF) << 8 | message[at + 1] & 0xFF);
            at += 2;
            if (count < 0) {
                return;
            }
            if (count != fields.length) {
                throw new SQLException("a record has " + count + " fields instead of " + fields.length);
            }
            record++;
            for (int i = 0; i < count; i++) {
                int length = length(message, at);
                at += 4;
                if (length < 0) {
                    batch.addNull();
                } else {
                    field(i, message, at, length, batch);
                    at += length;
                }
            }
            outOfRange.endRow(batch, record);
        }
    }

    private static int length(byte[] b, int at) {
        return (b[at] & 0xFF) << 24 | (b[at + 1] & 0xFF) << 16 | (b[at + 2] & 0xFF) << 8 | b[at + 3] & 0xFF;
    }

    private void field(int column, byte[] message, int at, int length, RecordBatch batch) {
        try {
            fields[column].read(message, at, length, batch);
        } catch (InvalidValueException e) {
            ColumnDefinition definition = table.columns().get(column);
            outOfRange.handle(batch, column, special(definition, message, at, length), e);
        }
    }

    /** The text of a value that is none elsewhere. */
    private static String special(ColumnDefinition column, byte[] message, int at, int length) {
        if (column.type().name() == TypeName.ARRAY) {
            return new String(message, at, length, StandardCharsets.US_ASCII);
        }
        if (column.type().name() == TypeName.DECIMAL) {
            return switch (message[at + 4] & 0xF0) {
                case 0xD0 -> "Infinity";
                case 0xF0 -> "-Infinity";
                default -> "NaN";
            };
        }
        if (column.type().name() == TypeName.TIME) {
            return PostgresCells.LATE_MIDNIGHT;
        }
        if (BinaryField.isAnyText(column)) {
            return BinaryField.shown(message, at, length);
        }
        return message[at] < 0 ? "-infinity" : "infinity";
    }

    @Override
    public List<Finding> findings() {
        return outOfRange.findings();
    }

    @Override
    public void close() {
        if (session.isEnded()) {
            return;
        }
        session.work("the reading of table " + table.name() + " can't be ended", () -> {
            if (ended) {
                session.connection().releaseSavepoint(before);
            } else {
                breakOff();
                // a COPY that is broken off breaks its transaction, and with it the state that all slices see
                session.connection().rollback(before);
            }
            return null;
        });
    }

    /** Asks the server to stop, and takes what is on its way until it does: what is left unread would answer others. */
    private void breakOff() throws SQLException {
        session.connection().unwrap(PGConnection.class).cancelQuery();
        try {
            while (copy.isActive() && copy.readFromCopy() != null) {
                // not wanted any more
            }
        } catch (SQLException e) {
            if (!PSQLState.QUERY_CANCELED.getState().equals(e.getSQLState())) {
                throw e;
            }
        }
    }
}
