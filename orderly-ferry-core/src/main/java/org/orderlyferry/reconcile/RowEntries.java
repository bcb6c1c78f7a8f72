package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.Records;
import org.orderlyferry.tally.Digest;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;

/**
 * The digests of a table's records on one side: each with its key's digest in a file, and their sums by buckets of keys.
 * Slices are seen by several threads, each by one.
 */
final class RowEntries {

    /** Numbers of a bucket's sum. */
    static final int SUM = 3;

    private final EntryStore store;
    private final RowKey key;
    private final int buckets;
    private final int parts;
    private final long[] sums;
    private final long[] counts;
    private final List<Seen> slices = new ArrayList<>();
    private long rows;
    private long sampledRows;
    private long sampledBytes;

    /** One of a table's slices, and where its entries are, by parts of the buckets. */
    private record Seen(Slice slice, List<List<KeptBlocks.Block>> parts) {}

    /** What is done with each entry. */
    @FunctionalInterface
    interface Each {
        void entry(int slice, long keyHigh, long keyLow, long high, long low, long number);
    }

    /**
     * None yet.
     *
     * @param buckets how many sums there are; a power of two, and the same on both sides
     * @param parts into how many parts, of as many buckets, entries are sorted; likewise
     */
    RowEntries(EntryStore store, RowKey key, int buckets, int parts) {
        this.store = store;
        this.key = key;
        this.buckets = buckets;
        this.parts = parts;
        this.sums = new long[buckets * 2];
        this.counts = new long[buckets];
    }

    /** An attempt at reading a slice. */
    Attempt attempt(Slice slice) {
        return new Attempt(slice);
    }

    RowKey key() {
        return key;
    }

    int buckets() {
        return buckets;
    }

    int parts() {
        return parts;
    }

    static int bucket(long keyLow, int buckets) {
        // not the bits by which maps of entries find their places
        return (int) (keyLow >>> 40) & buckets - 1;
    }

    long count(int bucket) {
        return counts[bucket];
    }

    /** Adds what a bucket holds to a sum: of digests, high and low, and of their number. */
    void addTo(long[] sum, int bucket) {
        long low = sum[1] + sums[2 * bucket + 1];
        sum[0] += sums[2 * bucket] + (Long.compareUnsigned(low, sum[1]) < 0 ? 1 : 0);
        sum[1] = low;
        sum[2] += counts[bucket];
    }

    /** A slice by its number. */
    Slice slice(int number) {
        return slices.get(number).slice();
    }

    /** About how many bytes a record has. */
    long recordBytes() {
        return sampledRows == 0 ? 0 : sampledBytes / sampledRows;
    }

    long rows() {
        return rows;
    }

    /** Goes through the entries of some buckets of a part. */
    void each(int part, boolean[] wanted, Each each) {
        long[] entries = new long[EntryStore.BLOCK * EntryStore.WIDTH];
        for (int number = 0; number < slices.size(); number++) {
            for (KeptBlocks.Block block : slices.get(number).parts().get(part)) {
                store.read(block.at(), entries, block.count());
                for (int at = 0; at < block.count() * EntryStore.WIDTH; at += EntryStore.WIDTH) {
                    if (wanted[bucket(entries[at + 1], buckets)]) {
                        each.entry(
                                number,
                                entries[at],
                                entries[at + 1],
                                entries[at + 2],
                                entries[at + 3],
                                entries[at + 4]);
                    }
                }
            }
        }
    }

    /**
     * Takes a slice that another process has seen.
     *
     * @param kept what {@link Attempt#done} gave
     * @return false if the file doesn't hold it, or not in the order of these buckets
     */
    boolean restore(Slice slice, Tally tally, String kept) {
        Attempt attempt = new Attempt(slice);
        boolean whole = KeptBlocks.parse(kept)
                .filter(b -> b.buckets() == buckets && b.parts().size() == parts)
                .filter(attempt::restore)
                .filter(b -> attempt.sum().equals(tally.digest()))
                .isPresent();
        if (whole) {
            take(attempt);
        }
        return whole;
    }

    private synchronized void take(Attempt attempt) {
        slices.add(new Seen(attempt.slice, attempt.blocks));
        for (int i = 0; i < buckets; i++) {
            long sum = sums[2 * i + 1] + attempt.ownSums[2 * i + 1];
            sums[2 * i] += attempt.ownSums[2 * i] + (Long.compareUnsigned(sum, attempt.ownSums[2 * i + 1]) < 0 ? 1 : 0);
            sums[2 * i + 1] = sum;
            counts[i] += attempt.ownCounts[i];
            rows += attempt.ownCounts[i];
        }
        sampledRows += attempt.firstRows;
        sampledBytes += attempt.firstBytes;
    }

    /** What is seen of a slice; counts when it is done. */
    final class Attempt implements TallyTaker.Witness {

        private final Slice slice;
        private final List<List<KeptBlocks.Block>> blocks = new ArrayList<>();
        private final long[] ownSums = new long[buckets * 2];
        private final long[] ownCounts = new long[buckets];
        private final long[][] pending = new long[parts][];
        private final int[] counts = new int[parts];
        private long firstRows;
        private long firstBytes;

        private Attempt(Slice slice) {
            this.slice = slice;
            for (int i = 0; i < parts; i++) {
                blocks.add(new ArrayList<>());
            }
        }

        @Override
        public void saw(Records batch, TallyTaker taker) {
            if (firstRows == 0) {
                firstRows = batch.rows();
                firstBytes = batch.valueBytes();
            }
            for (int row = 0; row < batch.rows(); row++) {
                long low = taker.rowLow(row);
                long high = taker.rowHigh(row);
                long keyLow = taker.keyLow(row);
                int bucket = bucket(keyLow, buckets);
                addTo(bucket, high, low);
                add(bucket / (buckets / parts), taker.keyHigh(row), keyLow, high, low, number(batch, row));
            }
        }

        private void addTo(int bucket, long high, long low) {
            long sum = ownSums[2 * bucket + 1] + low;
            ownSums[2 * bucket] += high + (Long.compareUnsigned(sum, low) < 0 ? 1 : 0);
            ownSums[2 * bucket + 1] = sum;
            ownCounts[bucket]++;
        }

        /** The digest of all that was seen: those of the records, added up. */
        private Digest sum() {
            Digest sum = Digest.ZERO;
            for (int bucket = 0; bucket < buckets; bucket++) {
                sum = sum.plus(new Digest(ownSums[2 * bucket], ownSums[2 * bucket + 1]));
            }
            return sum;
        }

        /** Sees what is in the file already. */
        private boolean restore(KeptBlocks kept) {
            firstRows = kept.firstRows();
            firstBytes = kept.firstBytes();
            long[] entries = new long[EntryStore.BLOCK * EntryStore.WIDTH];
            for (int part = 0; part < parts; part++) {
                for (KeptBlocks.Block block : kept.parts().get(part)) {
                    if (!store.has(block.at(), block.count())) {
                        return false;
                    }
                    store.read(block.at(), entries, block.count());
                    if (store.checksum(entries, block.count()) != block.checksum()) {
                        return false;
                    }
                    for (int at = 0; at < block.count() * EntryStore.WIDTH; at += EntryStore.WIDTH) {
                        int bucket = bucket(entries[at + 1], buckets);
                        if (bucket / (buckets / parts) != part) {
                            return false;
                        }
                        addTo(bucket, entries[at + 2], entries[at + 3]);
                    }
                    blocks.get(part).add(block);
                }
            }
            return true;
        }

        private void add(int part, long keyHigh, long keyLow, long high, long low, long number) {
            if (pending[part] == null) {
                pending[part] = new long[EntryStore.BLOCK * EntryStore.WIDTH];
            }
            long[] block = pending[part];
            int at = counts[part] * EntryStore.WIDTH;
            block[at] = keyHigh;
            block[at + 1] = keyLow;
            block[at + 2] = high;
            block[at + 3] = low;
            block[at + 4] = number;
            if (++counts[part] == EntryStore.BLOCK) {
                flush(part);
            }
        }

        private long number(Records batch, int row) {
            return key.whole() ? number(batch, row, key.places()[0]) : 0;
        }

        private static long number(Records batch, int row, int column) {
            int end = batch.end(row, column);
            if (end < 0) {
                return 0;
            }
            byte[] bytes = batch.bytes();
            int start = batch.start(row, column);
            boolean minus = bytes[start] == '-';
            long number = 0;
            for (int i = minus ? start + 1 : start; i < end; i++) {
                number = number * 10 + bytes[i] - '0';
            }
            return minus ? -number : number;
        }

        private void flush(int part) {
            blocks.get(part)
                    .add(new KeptBlocks.Block(
                            store.add(pending[part], counts[part]),
                            counts[part],
                            store.checksum(pending[part], counts[part])));
            counts[part] = 0;
        }

        /**
         * The slice has come to its end.
         *
         * @return where its entries are, for {@link RowEntries#restore}
         */
        String done() {
            for (int part = 0; part < parts; part++) {
                if (counts[part] > 0) {
                    flush(part);
                }
            }
            take(this);
            return store.isKept() ? kept() : "";
        }

        private String kept() {
            // what is said to be kept must be so, even if the machine fails
            store.force();
            return new KeptBlocks(buckets, firstRows, firstBytes, blocks).toString();
        }
    }
}
