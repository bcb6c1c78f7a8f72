package org.orderlyferry.work;

import java.time.Duration;
import java.util.Optional;
import org.orderlyferry.model.TableName;
import org.orderlyferry.tally.Tally;

/** What became of a table so far, over all its slices. Safe for use by several threads. */
final class TableSum {

    private final TableName table;
    private final int slices;
    private long started;
    private long ended;
    private long written;
    private long rejected;
    private long leftOut;
    private long bytes;
    private long fileBytes;
    private Tally tally;
    private Tally read;
    private int done;

    TableSum(TableName table, int slices) {
        this.table = table;
        this.slices = slices;
    }

    /** Whether this is the first slice. */
    synchronized boolean begin() {
        if (started == 0) {
            started = System.nanoTime();
            return true;
        }
        return false;
    }

    /** Adds a slice; tells whether it was the last. */
    synchronized boolean add(SliceResult result) {
        written += result.written();
        rejected += result.rejected();
        leftOut += result.leftOut();
        bytes += result.bytes();
        fileBytes += result.fileBytes();
        tally = tally == null ? result.tally() : tally.plus(result.tally());
        read = read == null ? result.read() : read.plus(result.read());
        ended = System.nanoTime();
        return ++done == slices;
    }

    synchronized long rows() {
        return written;
    }

    /** Of all records that were read, whether the target could hold them or not. */
    synchronized Tally read() {
        return read;
    }

    synchronized boolean isDone() {
        return done == slices;
    }

    synchronized MovedTable result() {
        return new MovedTable(
                table,
                written,
                rejected,
                leftOut,
                fileBytes > 0 ? fileBytes : bytes,
                tally,
                Duration.ofNanos(started == 0 ? 0 : ended - started),
                Optional.empty());
    }
}
