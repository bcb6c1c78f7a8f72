package org.orderlyferry.databases.driver;

import java.util.List;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;

/**
 * Takes back, behind a table's records, what a system was told in front of them: that a counter is given its values holds for a
 * session, and for one table at a time.
 */
record SurroundedWriter(RecordWriter writer, Session session, List<String> after, TableName shown)
        implements RecordWriter {

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
        try {
            writer.close();
        } finally {
            session.work("the load of table " + shown + " can't be ended", () -> {
                for (String statement : after) {
                    session.execute(statement);
                }
                return null;
            });
        }
    }
}
