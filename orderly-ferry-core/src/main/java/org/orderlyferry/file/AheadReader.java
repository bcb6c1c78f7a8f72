package org.orderlyferry.file;

import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.progress.SideThread;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/**
 * Lets another reader work ahead on a thread of its own: taking a file apart is more work than all that comes after it. A
 * file of a single batch is read by the caller; only a longer one is worth a thread.
 */
final class AheadReader implements RecordReader {

    /** Batches that are filled, handed over and filled again. */
    private static final int BATCHES = 2;
    /** Bytes of a batch that holds a value too large to read anything ahead of it. */
    private static final int LARGE = 8 * 1024 * 1024;

    private final RecordReader reader;
    private final BlockingQueue<Object> filled = new ArrayBlockingQueue<>(BATCHES + 1);
    private final BlockingQueue<RecordBatch> empty = new ArrayBlockingQueue<>(BATCHES);
    /** Stands for the end in the queue. */
    private final Object end = new Object();

    private SideThread thread;
    private volatile boolean stopped;
    private boolean ended;
    private boolean begun;
    private boolean large;

    AheadReader(RecordReader reader) {
        this.reader = reader;
    }

    @Override
    public TableDefinition table() {
        return reader.table();
    }

    @Override
    public boolean read(RecordBatch batch) {
        if (large) {
            // the batch with the huge value has been used: now there is room for another
            large = false;
            empty.add(new RecordBatch());
        }
        if (ended) {
            batch.start(table().columns().size(), table().name().toString(), "", false);
            return false;
        }
        if (!begun) {
            begun = true;
            boolean any = reader.read(batch);
            if (any && batch.isFull() && batch.size() <= LARGE) {
                start();
            }
            return any;
        }
        return thread == null ? reader.read(batch) : take(batch);
    }

    private void start() {
        for (int i = 0; i < BATCHES; i++) {
            empty.add(new RecordBatch());
        }
        thread = SideThread.start("ferry-ahead", this::run);
    }

    private void run() {
        try {
            while (!stopped) {
                RecordBatch batch = empty.take();
                if (!reader.read(batch)) {
                    break;
                }
                filled.put(batch);
            }
            filled.put(end);
        } catch (InterruptedException e) {
            // closed in the middle of the file
        } catch (RuntimeException | Error e) {
            // there is room: the queue holds one more than there are batches
            filled.offer(e);
        }
    }

    private boolean take(RecordBatch batch) {
        Object next;
        try {
            next = filled.take();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new StoppedException();
        }
        if (next instanceof RecordBatch full) {
            batch.swap(full);
            large = batch.size() > LARGE;
            if (!large) {
                empty.add(full);
            }
            return true;
        }
        ended = true;
        if (next instanceof Throwable failure) {
            SideThread.rethrow(failure);
        }
        batch.start(table().columns().size(), table().name().toString(), "", false);
        return false;
    }

    @Override
    public List<Finding> findings() {
        return reader.findings();
    }

    @Override
    public void close() {
        stopped = true;
        if (thread != null) {
            thread.stop();
        }
        reader.close();
    }
}
