package org.orderlyferry.integrity;

import java.util.List;
import org.orderlyferry.record.Records;
import org.orderlyferry.tally.TallyTaker;

/** Hashes some columns' values of each record of a batch. Not safe for use by several threads. */
final class RecordHashes {

    private final int[] places;
    private final TallyTaker taker;
    private Records batch = null;

    /**
     * Makes ready.
     *
     * @param read the columns of the records that come, of which those are some
     */
    RecordHashes(Constraint.Columns columns, List<String> read) {
        this.places = columns.names().stream().mapToInt(read::indexOf).toArray();
        this.taker = new TallyTaker(columns.names(), columns.forms(), places);
    }

    /** Hashes a batch. */
    void of(Records records) {
        batch = records;
        taker.add(records);
    }

    /** Whether none of a record's values is null. */
    boolean isWhole(int row) {
        for (int place : places) {
            if (batch.end(row, place) < 0) {
                return false;
            }
        }
        return true;
    }

    long high(int row) {
        return taker.rowHigh(row);
    }

    long low(int row) {
        return taker.rowLow(row);
    }
}
