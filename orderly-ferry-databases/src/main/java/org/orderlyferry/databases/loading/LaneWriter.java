package org.orderlyferry.databases.loading;

import org.orderlyferry.databases.Session;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.slf4j.LoggerFactory;

/** A writer with a connection of its own, which goes with it. */
final class LaneWriter implements RecordWriter {

    private final RecordWriter writer;
    private final Session session;

    LaneWriter(RecordWriter writer, Session session) {
        this.writer = writer;
        this.session = session;
    }

    @Override
    public void write(RecordBatch batch) {
        writer.write(batch);
    }

    @Override
    public void finish() {
        writer.finish();
    }

    @Override
    public void close() {
        try (session) {
            writer.close();
        } catch (PlaceException e) {
            // what was finished is there, and what wasn't is rolled back, whether the connection ends well or not
            LoggerFactory.getLogger(LaneWriter.class).debug("a lost connection can't be closed", e);
        }
    }
}
