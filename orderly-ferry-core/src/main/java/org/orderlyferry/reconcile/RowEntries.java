package org.orderlyferry.reconcile;

import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.Digits;
import org.orderlyferry.tally.Digest;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;

/**
 * The digests of a table's records on one side: each with its key's digest in a file, sorted into parts by the keys'
 * digests. Slices are seen by several threads, each by one.
 */
final class RowEntries {

    /** Numbers of a bucket's sum. */
    static final int SUM = 3;

    private final EntryStore store;
    private final RowKey key;
    private final int buckets;
    private final int parts;
    private final List<Seen> slices = new ArrayList<>();
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
     * @param buckets of how many buckets of keys there are sums, when they are asked for; a power of two, and the same on both sides
     * @param parts into how many parts, of as many buckets, entries are sorted; likewise
     */
    RowEntries(EntryStore store, RowKey key, int buckets, int parts) {
        this.store = store;
        this.key = key;
        this.buckets = buckets;
        this.parts = parts;
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

    private int part(long keyLow) {
        return bucket(keyLow, buckets) / (buckets / parts);
    }

    /** Adds what the buckets of a part hold to their sums: of digests, high and low, and of their number. */
    void addTo(long[] sums, int part) {
        int first = part * (buckets / parts);
        each(part, null, (slice, kh, keyLow, high, low, number) -> {
            int at = SUM * (bucket(keyLow, buckets) - first);
            long sum = sums[at + 1] + low;
            sums[at] += high + (Long.compareUnsigned(sum, low) < 0 ? 1 : 0);
            sums[at + 1] = sum;
            sums[at + 2]++;
        });
    }

    /** A slice by its number. */
    Slice slice(int number) {
        return slices.get(number).slice();
    }

    /** About how many bytes a record has. */
    long recordBytes() {
        return sampledRows == 0 ? 0 : sampledBytes / sampledRows;
    }

    /** Goes through the entries of some buckets of a part; null for all of them. */
    void each(int part, boolean @Nullable [] wanted, Each each) {
        long[] entries = new long[EntryStore.BLOCK * EntryStore.WIDTH];
        for (int number = 0; number < slices.size(); number++) {
            for (KeptBlocks.Block block : slices.get(number).parts().get(part)) {
                store.read(block, entries);
                for (int at = 0; at < block.count() * EntryStore.WIDTH; at += EntryStore.WIDTH) {
                    if (wanted == null || wanted[bucket(entries[at + 1], buckets)]) {
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
                .filter(b -> b.parts().size() == parts)
                .filter(b -> attempt.restored(b).filter(tally.digest()::equals).isPresent())
                .isPresent();
        if (whole) {
            take(attempt);
        }
        return whole;
    }

    private synchronized void take(Attempt attempt) {
        slices.add(new Seen(attempt.slice, attempt.blocks));
        sampledRows += attempt.firstRows;
        sampledBytes += attempt.firstBytes;
    }

    /** What is seen of a slice; counts when it is done. */
    final class Attempt implements TallyTaker.Witness {

        private final Slice slice;
        private final List<List<KeptBlocks.Block>> blocks = new ArrayList<>();
        private final @Nullable ByteBuffer[] pending = new ByteBuffer[parts];
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
                add(part(keyLow), taker.keyHigh(row), keyLow, high, low, number(batch, row));
            }
        }

        /**
         * Sees what is in the file already.
         *
         * @return the digest of all of it, the records' own added up; empty if it isn't there
         */
        private Optional<Digest> restored(KeptBlocks kept) {
            firstRows = kept.firstRows();
            firstBytes = kept.firstBytes();
            Digest sum = Digest.ZERO;
            long[] entries = new long[EntryStore.BLOCK * EntryStore.WIDTH];
            for (int part = 0; part < parts; part++) {
                for (KeptBlocks.Block block : kept.parts().get(part)) {
                    if (!store.readKept(block, entries)) {
                        return Optional.empty();
                    }
                    for (int at = 0; at < block.count() * EntryStore.WIDTH; at += EntryStore.WIDTH) {
                        if (part(entries[at + 1]) != part) {
                            return Optional.empty();
                        }
                        sum = sum.plus(new Digest(entries[at + 2], entries[at + 3]));
                    }
                    blocks.get(part).add(block);
                }
            }
            return Optional.of(sum);
        }

        private void add(int part, long keyHigh, long keyLow, long high, long low, long number) {
            ByteBuffer block = pending[part];
            if (block == null) {
                block = EntryStore.block();
                pending[part] = block;
            }
            block.putLong(keyHigh).putLong(keyLow).putLong(high).putLong(low).putLong(number);
            if (!block.hasRemaining()) {
                blocks.get(part).add(store.add(block));
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
            return Digits.read(batch.bytes(), batch.start(row, column), end);
        }

        /**
         * The slice has come to its end.
         *
         * @return where its entries are, for {@link RowEntries#restore}
         */
        String done() {
            for (int part = 0; part < parts; part++) {
                ByteBuffer block = pending[part];
                if (block != null && block.position() > 0) {
                    blocks.get(part).add(store.add(block));
                }
            }
            take(this);
            return store.isKept() ? kept() : "";
        }

        private String kept() {
            // what is said to be kept must be so, even if the machine fails
            store.force();
            return new KeptBlocks(firstRows, firstBytes, blocks).toString();
        }
    }
}
