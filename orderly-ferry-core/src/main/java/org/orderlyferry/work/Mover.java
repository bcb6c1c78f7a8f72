package org.orderlyferry.work;

import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.Semaphore;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.SideThread;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.tally.TallyTaker;

/**
 * Moves one slice's records from a reader to a writer. The reader works ahead on a thread of its own, by a few batches
 * and no more: a slow writer makes it wait.
 */
final class Mover {

    private static final int AHEAD = 3;
    /** Bytes of a batch that holds a value too large to have several of. */
    private static final int LARGE = 8 * 1024 * 1024;

    private final TableName table;
    private final ProgressListener listener;
    private final Pace pace;
    private final Runnable check;
    private final BlockingQueue<RecordBatch> filled = new ArrayBlockingQueue<>(AHEAD + 1);
    private final BlockingQueue<RecordBatch> empty = new ArrayBlockingQueue<>(AHEAD);
    /** Stands for the end in the queue. */
    private final RecordBatch end = new RecordBatch();

    private final Semaphore written = new Semaphore(0);
    private volatile boolean stopped;
    private long rows;
    private long bytes;

    Mover(TableName table, ProgressListener listener, Pace pace, Runnable check) {
        this.table = table;
        this.listener = listener;
        this.pace = pace;
        this.check = check;
        for (int i = 0; i < AHEAD; i++) {
            empty.add(new RecordBatch());
        }
    }

    /**
     * Moves all records; the writer isn't finished by that.
     *
     * @param taker counts them as they are read, which leaves the writer's thread less to do
     */
    void move(RecordReader reader, TallyTaker taker, RecordWriter writer) {
        check.run();
        SideThread reading = SideThread.start("ferry-reader", () -> read(reader, taker));
        try {
            for (RecordBatch batch = take(filled); batch != end; batch = take(filled)) {
                check.run();
                long size = batch.valueBytes();
                int count = batch.rows();
                boolean large = batch.size() > LARGE;
                writer.write(batch);
                if (large) {
                    batch.shrink();
                    written.release();
                }
                empty.add(batch);
                rows += count;
                bytes += size;
                listener.moved(table, count, size);
                pace.keep(count, size, check);
            }
        } finally {
            stopped = true;
            // whatever the reader waits for, it gets it
            empty.offer(new RecordBatch());
            filled.clear();
            written.release();
            reading.await();
        }
        reading.rethrow();
    }

    /** Counts all records, which go nowhere: on this thread alone, in one batch. */
    void count(RecordReader reader, TallyTaker taker) {
        RecordBatch batch = new RecordBatch();
        check.run();
        while (reader.read(batch)) {
            check.run();
            taker.add(batch);
            long size = batch.valueBytes();
            rows += batch.rows();
            bytes += size;
            listener.moved(table, batch.rows(), size);
            pace.keep(batch.rows(), size, check);
        }
    }

    private void read(RecordReader reader, TallyTaker taker) {
        try {
            while (!stopped) {
                RecordBatch batch = take(empty);
                if (stopped || !reader.read(batch)) {
                    break;
                }
                taker.add(batch);
                boolean large = batch.size() > LARGE;
                filled.put(batch);
                if (large) {
                    // nothing is read ahead of a huge value: there is room for one of them
                    written.acquire();
                }
            }
        } catch (InterruptedException e) {
            throw new IllegalStateException("nobody interrupts a reader", e);
        } finally {
            // there is room for it: the queue holds one more than there are batches
            filled.offer(end);
        }
    }

    private static RecordBatch take(BlockingQueue<RecordBatch> queue) {
        try {
            return queue.take();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new StoppedException();
        }
    }

    long rows() {
        return rows;
    }

    /** How many bytes of values moved. */
    long bytes() {
        return bytes;
    }
}
