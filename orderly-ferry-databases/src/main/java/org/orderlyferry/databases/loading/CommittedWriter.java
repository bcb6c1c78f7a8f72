package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.function.Supplier;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.slf4j.LoggerFactory;

/** Commits what another writer has written, together with its receipt. */
final class CommittedWriter implements RecordWriter {

    private final RecordWriter writer;
    private final Session session;
    private final Lanes lanes;
    private final boolean own;
    private final TableName shown;
    private final int task;
    private final int table;
    private final Supplier<String> receipt;
    private long records;
    private boolean committed;

    /**
     * A writer.
     *
     * @param session that of the other writer
     * @param lanes where the session is given back, and another one comes from to ask for a commit whose answer was lost
     * @param own whether the session is one of those lanes
     * @param shown the table's name for messages
     * @param table which of the load's tables, by its number
     */
    CommittedWriter(
            RecordWriter writer,
            Session session,
            Lanes lanes,
            boolean own,
            TableName shown,
            int task,
            int table,
            Supplier<String> receipt) {
        this.writer = writer;
        this.session = session;
        this.lanes = lanes;
        this.own = own;
        this.shown = shown;
        this.task = task;
        this.table = table;
        this.receipt = receipt;
    }

    @Override
    public void write(RecordBatch batch) {
        // a writer may empty the batch
        int count = batch.rows();
        writer.write(batch);
        records += count;
    }

    @Override
    public void finish() {
        writer.finish();
        session.work("the receipt for records of table " + shown + " can't be written", () -> {
            Receipts.write(session, task, table, records, receipt.get());
            return null;
        });
        try {
            session.connection().commit();
            committed = true;
        } catch (SQLException e) {
            PlaceException failure = session.failed("the records of table " + shown + " can't be committed", e);
            if (!failure.isLost() || !own) {
                throw new PlaceException(session.address(), failure.getMessage(), failure);
            }
            if (!isIn(failure)) {
                // nothing of it is there, so another try is worth while
                throw failure;
            }
        }
    }

    /** Asks another connection whether the receipt is there, and so the records. */
    private boolean isIn(PlaceException failure) {
        try (Session other = lanes.fresh()) {
            return Receipts.has(other, task);
        } catch (SQLException | PlaceException e) {
            // nobody can tell, so nobody may try again
            PlaceException unknown = new PlaceException(session.address(), failure.getMessage(), failure);
            unknown.addSuppressed(e);
            throw unknown;
        }
    }

    @Override
    public void close() {
        if (!own) {
            writer.close();
            return;
        }
        boolean serves = false;
        try {
            writer.close();
            serves = committed;
        } catch (PlaceException e) {
            // what was finished is there, and what wasn't is rolled back, whether the connection ends well or not
            LoggerFactory.getLogger(CommittedWriter.class).debug("a lost connection can't be closed", e);
        } finally {
            if (serves) {
                lanes.giveBack(session);
            } else {
                session.close();
            }
        }
    }
}
