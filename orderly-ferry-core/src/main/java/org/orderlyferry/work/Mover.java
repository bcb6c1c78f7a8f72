package org.orderlyferry.work;

import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.orderlyferry.model.TableName;
import org.orderlyferry.progress.Ahead;
import org.orderlyferry.progress.ProgressListener;
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
    private long rows;
    private long bytes;

    Mover(TableName table, ProgressListener listener, Pace pace, Runnable check) {
        this.table = table;
        this.listener = listener;
        this.pace = pace;
        this.check = check;
    }

    /**
     * Moves all records; the writer isn't finished by that.
     *
     * @param screen takes records out that can't be written, once they are counted
     * @param taker counts all as they are read, which leaves the writer's thread less to do
     */
    void move(RecordReader reader, Consumer<RecordBatch> screen, TallyTaker taker, RecordWriter writer) {
        check.run();
        List<RecordBatch> batches =
                Stream.generate(RecordBatch::new).limit(AHEAD).toList();
        try (Ahead<RecordBatch> reading = new Ahead<>(
                "ferry-reader", batches, batch -> read(reader, screen, taker, batch), b -> b.size() > LARGE)) {
            for (RecordBatch batch = reading.take(); batch != null; batch = reading.take()) {
                check.run();
                long size = batch.valueBytes();
                int count = batch.rows();
                boolean large = batch.size() > LARGE;
                writer.write(batch);
                if (large) {
                    batch.shrink();
                }
                reading.giveBack(batch);
                rows += count;
                bytes += size;
                listener.moved(table, count, size);
                pace.keep(count, size, check);
            }
        }
    }

    private static boolean read(
            RecordReader reader, Consumer<RecordBatch> screen, TallyTaker taker, RecordBatch batch) {
        if (!reader.read(batch)) {
            return false;
        }
        taker.add(batch);
        screen.accept(batch);
        return true;
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

    long rows() {
        return rows;
    }

    /** How many bytes of values moved. */
    long bytes() {
        return bytes;
    }
}
