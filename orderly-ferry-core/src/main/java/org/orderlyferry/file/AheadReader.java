package org.orderlyferry.file;

import java.util.List;
import org.orderlyferry.progress.Ahead;
import org.orderlyferry.record.ForwardingReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/**
 * Lets another reader work ahead on a thread of its own: taking a file apart is more work than all that comes after it. A
 * file of a single batch is read by the caller; only a longer one is worth a thread.
 */
final class AheadReader extends ForwardingReader {

    /** Bytes of a batch that holds a value too large to read anything ahead of it. */
    private static final int LARGE = 8 * 1024 * 1024;

    private Ahead<RecordBatch> ahead;
    /** What was taken last, whose content the caller's batch has now; given back when that was used. */
    private RecordBatch taken;

    private boolean begun;
    private boolean ended;

    AheadReader(RecordReader reader) {
        super(reader);
    }

    @Override
    public boolean read(RecordBatch batch) {
        if (ended) {
            return end(batch);
        }
        if (ahead != null) {
            return take(batch);
        }
        boolean any = super.read(batch);
        if (!begun) {
            begun = true;
            if (any && batch.isFull() && batch.size() <= LARGE) {
                ahead = new Ahead<>(
                        "ferry-ahead",
                        List.of(new RecordBatch(), new RecordBatch()),
                        reader()::read,
                        b -> b.size() > LARGE);
            }
        }
        return any;
    }

    private boolean take(RecordBatch batch) {
        if (taken != null) {
            ahead.giveBack(taken);
        }
        taken = ahead.take();
        if (taken == null) {
            ended = true;
            return end(batch);
        }
        batch.swap(taken);
        if (batch.size() > LARGE) {
            return true;
        }
        ahead.giveBack(taken);
        taken = null;
        return true;
    }

    private boolean end(RecordBatch batch) {
        batch.start(table().columns().size(), table().name().toString(), "", false);
        return false;
    }

    @Override
    public void close() {
        if (ahead != null) {
            ahead.close();
        }
        super.close();
    }
}
