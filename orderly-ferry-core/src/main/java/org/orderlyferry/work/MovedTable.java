package org.orderlyferry.work;

import java.time.Duration;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Merged;
import org.orderlyferry.tally.Tally;

/**
 * What became of one table: read = written + rejected + left out.
 *
 * @param table which table
 * @param written how many records were written
 * @param rejected how many were read and not written, each with a reason
 * @param leftOut how many a condition has left out
 * @param bytes the size of the file that was written, or of the values that were loaded
 * @param tally of the records that were written
 * @param time how long it took
 * @param merged what a merge did with the records; empty where nothing was merged
 */
@NullMarked
public record MovedTable(
        TableName table,
        long written,
        long rejected,
        long leftOut,
        long bytes,
        Tally tally,
        Duration time,
        Optional<Merged> merged) {

    /** How many records were read. */
    public long read() {
        return written + rejected + leftOut;
    }

    /** Whether as many records were written as were counted while they were read. */
    public boolean addsUp() {
        return tally.rows() == written;
    }

    MovedTable withMerged(Optional<Merged> value) {
        return new MovedTable(table, written, rejected, leftOut, bytes, tally, time, value);
    }
}
