package org.orderlyferry.databases.place;

import java.util.function.LongSupplier;
import org.orderlyferry.record.ForwardingReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** Reads records of which a system has left out some; when all it gives were read, those are counted. */
final class RestrictedReader extends ForwardingReader {

    private final LongSupplier all;
    private long rows;
    private boolean ended;
    private volatile long leftOut;

    /**
     * A reader.
     *
     * @param reader gives what isn't left out
     * @param all counts all there are but for those that were rejected; asked once, when that one has given all it has
     */
    RestrictedReader(RecordReader reader, LongSupplier all) {
        super(reader);
        this.all = all;
    }

    @Override
    public boolean read(RecordBatch batch) {
        if (super.read(batch)) {
            rows += batch.rows();
            return true;
        }
        if (!ended) {
            ended = true;
            leftOut = Math.max(0, all.getAsLong() - rows);
        }
        return false;
    }

    @Override
    public long leftOut() {
        return leftOut;
    }
}
