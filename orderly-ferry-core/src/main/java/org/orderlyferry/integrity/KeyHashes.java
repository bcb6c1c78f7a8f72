package org.orderlyferry.integrity;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.record.Records;
import org.orderlyferry.tally.TallyTaker;

/**
 * The hashes of some columns' values in all records of a table, on the disk, sorted into parts that are gone through one by
 * one. Records in which one of the values is null have none. Slices are seen by several threads, each by one.
 */
final class KeyHashes {

    private final HashFile file;
    private final Constraint.Columns columns;
    private final int parts;
    private final List<List<HashFile.Block>> blocks = new ArrayList<>();

    /**
     * None yet.
     *
     * @param parts into how many parts they are sorted; a power of two, the same for hashes that are held against each other
     */
    KeyHashes(HashFile file, Constraint.Columns columns, int parts) {
        this.file = file;
        this.columns = columns;
        this.parts = parts;
        for (int i = 0; i < parts; i++) {
            blocks.add(new ArrayList<>());
        }
    }

    /** Of which columns. */
    Constraint.Columns columns() {
        return columns;
    }

    int parts() {
        return parts;
    }

    /** What is done with a hash. */
    @FunctionalInterface
    interface Each {
        void hash(long high, long low);
    }

    /** Goes through the hashes of a part. */
    void each(int part, Each each) {
        long[] hashes = new long[HashFile.BLOCK * HashFile.WIDTH];
        for (HashFile.Block block : blocks.get(part)) {
            file.read(block, hashes);
            for (int i = 0; i < block.hashes(); i++) {
                each.hash(hashes[2 * i], hashes[2 * i + 1]);
            }
        }
    }

    /** How many there are in a part. */
    int count(int part) {
        return blocks.get(part).stream().mapToInt(HashFile.Block::hashes).sum();
    }

    /**
     * An attempt at reading a slice.
     *
     * @param read the columns of the records that it sees
     */
    Attempt attempt(List<String> read) {
        return new Attempt(new RecordHashes(columns, read));
    }

    private synchronized void take(List<List<HashFile.Block>> more) {
        for (int i = 0; i < parts; i++) {
            blocks.get(i).addAll(more.get(i));
        }
    }

    /** What is seen of a slice; counts when it is done. */
    final class Attempt implements TallyTaker.Witness {

        private final RecordHashes hashes;
        private final List<List<HashFile.Block>> full = new ArrayList<>();
        private final long @Nullable [][] pending = new long[parts][];
        private final int[] counts = new int[parts];

        private Attempt(RecordHashes hashes) {
            this.hashes = hashes;
            IntStream.range(0, parts).forEach(i -> full.add(new ArrayList<>()));
        }

        @Override
        public void saw(Records batch, TallyTaker taker) {
            hashes.of(batch);
            for (int row = 0; row < batch.rows(); row++) {
                if (hashes.isWhole(row)) {
                    add(hashes.high(row), hashes.low(row));
                }
            }
        }

        private void add(long high, long low) {
            // not the bits by which a table of hashes finds its places
            int part = (int) (high >>> 40) & parts - 1;
            long[] room = pending[part];
            int count = counts[part];
            if (room == null || room.length == count * HashFile.WIDTH) {
                // most parts of small tables have few
                room = room == null
                        ? new long[16]
                        : Arrays.copyOf(room, Math.min(2 * room.length, HashFile.BLOCK * HashFile.WIDTH));
                pending[part] = room;
            }
            room[2 * count] = high;
            room[2 * count + 1] = low;
            counts[part] = ++count;
            if (count == HashFile.BLOCK) {
                flush(part);
            }
        }

        private void flush(int part) {
            long[] room = pending[part];
            if (room != null && counts[part] > 0) {
                full.get(part).add(file.add(room, counts[part]));
                counts[part] = 0;
            }
        }

        /** The slice has come to its end. */
        void done() {
            IntStream.range(0, parts).forEach(this::flush);
            take(full);
        }
    }
}
