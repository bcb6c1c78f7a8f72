package org.orderlyferry.transfer;

import java.time.Duration;
import org.orderlyferry.model.TableName;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.tally.Tally;

/** Moves one table's records from a reader to a writer. */
final class Mover {

    private final TableName table;
    private final ProgressListener listener;
    private final StopSignal stop;
    private final long started = System.nanoTime();
    private long rows;
    private long bytes;

    Mover(TableName table, ProgressListener listener, StopSignal stop) {
        this.table = table;
        this.listener = listener;
        this.stop = stop;
    }

    void move(RecordReader reader, RecordWriter writer, long expected) {
        listener.tableStarted(table, expected);
        RecordBatch batch = new RecordBatch();
        stop.check();
        while (reader.read(batch)) {
            stop.check();
            writer.write(batch);
            rows += batch.rows();
            long size = batch.valueBytes();
            bytes += size;
            listener.moved(table, batch.rows(), size);
        }
        stop.check();
        writer.finish();
        listener.tableFinished(table, rows);
    }

    /** How many bytes of values moved. */
    long bytes() {
        return bytes;
    }

    MovedTable result(long size, Tally tally) {
        return new MovedTable(
                table,
                rows,
                tally.rows(),
                size,
                tally,
                Duration.ofNanos(System.nanoTime() - started),
                java.util.Optional.empty());
    }
}
