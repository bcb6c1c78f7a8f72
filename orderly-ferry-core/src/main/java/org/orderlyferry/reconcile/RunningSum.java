package org.orderlyferry.reconcile;

import org.orderlyferry.tally.Digest;
import org.orderlyferry.tally.Tally;

/** A sum of records while they come and go, without an object for any of them. Not safe for use by several threads. */
final class RunningSum {

    private long rows;
    private long high;
    private long low;

    void add(long otherHigh, long otherLow) {
        rows++;
        low += otherLow;
        high += otherHigh + (Long.compareUnsigned(low, otherLow) < 0 ? 1 : 0);
    }

    /** Adds all that were tallied. */
    void add(Tally tally) {
        add(tally.digest().high(), tally.digest().low());
        rows += tally.rows() - 1;
    }

    void takeOut(long otherHigh, long otherLow) {
        rows--;
        high -= otherHigh + (Long.compareUnsigned(low, otherLow) < 0 ? 1 : 0);
        low -= otherLow;
    }

    RecordSum sum() {
        return new RecordSum(rows, new Digest(high, low));
    }
}
