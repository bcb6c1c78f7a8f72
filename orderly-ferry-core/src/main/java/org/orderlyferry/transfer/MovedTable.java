package org.orderlyferry.transfer;

import java.time.Duration;
import java.util.Optional;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Merged;
import org.orderlyferry.tally.Tally;

/**
 * What became of one table.
 *
 * @param table which table
 * @param read how many records were read
 * @param written how many were written
 * @param bytes the size of the file that was written, or of the values that were loaded
 * @param tally of the records that were written
 * @param time how long it took
 * @param merged what a merge did with the records; empty where nothing was merged
 */
public record MovedTable(
        TableName table, long read, long written, long bytes, Tally tally, Duration time, Optional<Merged> merged) {

    /** How many were read and not written: each was rejected with a reason. */
    public long rejected() {
        return read - written;
    }

    MovedTable withRejects(long count) {
        return new MovedTable(table, written + count, written, bytes, tally, time, merged);
    }

    MovedTable withMerged(Optional<Merged> value) {
        return new MovedTable(table, read, written, bytes, tally, time, value);
    }
}
