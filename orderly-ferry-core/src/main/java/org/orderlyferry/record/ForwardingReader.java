package org.orderlyferry.record;

import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;

/**
 * Hands every call on to another reader. Who wraps a reader begins here, so that nothing that one has to say is lost by being
 * forgotten.
 */
@API(status = API.Status.INTERNAL)
public abstract class ForwardingReader implements RecordReader {

    private final RecordReader reader;

    /** A reader over another one, which it closes. */
    protected ForwardingReader(RecordReader reader) {
        this.reader = reader;
    }

    /** The reader that calls go to. */
    protected final RecordReader reader() {
        return reader;
    }

    @Override
    public TableDefinition table() {
        return reader.table();
    }

    @Override
    public boolean read(RecordBatch batch) {
        return reader.read(batch);
    }

    @Override
    public List<Finding> findings() {
        return reader.findings();
    }

    @Override
    public long leftOut() {
        return reader.leftOut();
    }

    @Override
    public void close() {
        reader.close();
    }
}
