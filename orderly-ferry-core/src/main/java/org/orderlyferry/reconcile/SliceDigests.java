package org.orderlyferry.reconcile;

import java.util.List;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.Digits;
import org.orderlyferry.tally.ComparisonForm;
import org.orderlyferry.tally.TallyTaker;

/** The records of a slice by their keys and the digests that a place's own server takes of them. */
final class SliceDigests {

    /** Sees a record. */
    @FunctionalInterface
    interface Seen {
        /**
         * A record.
         *
         * @param high the upper half of its digest
         * @param low the lower half
         * @param keys a batch that has the values of keys
         * @param row which of them is this one's
         */
        void record(long keyHigh, long keyLow, long high, long low, Records keys, int row);
    }

    private SliceDigests() {}

    /**
     * Goes through them.
     *
     * @param slice with the columns that the digests are of
     * @param key the key's columns
     * @param forms in which the key's values are compared
     */
    static void read(Place place, Slice slice, List<String> key, List<ComparisonForm> forms, long seed, Seen seen) {
        TallyTaker keys = new TallyTaker(key, forms);
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = place.ownDigests().orElseThrow().read(slice, key, seed)) {
            while (reader.read(batch)) {
                keys.add(batch);
                for (int row = 0; row < batch.rows(); row++) {
                    long digest = Digits.read(batch.bytes(), batch.start(row, key.size()), batch.end(row, key.size()));
                    // as a sum of many has it, too
                    long sign = digest >> Long.SIZE - 1;
                    seen.record(keys.rowHigh(row), keys.rowLow(row), sign, digest, batch, row);
                }
            }
        }
    }
}
