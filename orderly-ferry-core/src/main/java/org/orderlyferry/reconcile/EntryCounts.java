package org.orderlyferry.reconcile;

/**
 * How often each pair of a key's digest and a record's is there more on one side than on the other: what one side adds the
 * other takes away. Open addressing, without an object for any of them. Not safe for use by several threads.
 */
final class EntryCounts {

    private static final int WIDTH = 4;

    private long[] cells = new long[WIDTH * 1024];
    private int[] counts = new int[1024];
    private boolean[] used = new boolean[1024];
    private int size;

    /** What is done with each that isn't there as often on both sides. */
    @FunctionalInterface
    interface Seen {
        void entry(long keyHigh, long keyLow, long high, long low, int count);
    }

    /** Adds so many. */
    void add(long keyHigh, long keyLow, long high, long low, int count) {
        if (2 * (size + 1) > counts.length) {
            grow();
        }
        int slot = slot(keyHigh, keyLow, high, low);
        if (!used[slot]) {
            used[slot] = true;
            int at = WIDTH * slot;
            cells[at] = keyHigh;
            cells[at + 1] = keyLow;
            cells[at + 2] = high;
            cells[at + 3] = low;
            size++;
        }
        counts[slot] += count;
    }

    /** By how many a pair is there more on the side that adds; negative for the other one. */
    int count(long keyHigh, long keyLow, long high, long low) {
        int slot = slot(keyHigh, keyLow, high, low);
        return used[slot] ? counts[slot] : 0;
    }

    /** Goes through all whose count isn't zero. */
    void each(Seen seen) {
        for (int slot = 0; slot < counts.length; slot++) {
            if (used[slot] && counts[slot] != 0) {
                int at = WIDTH * slot;
                seen.entry(cells[at], cells[at + 1], cells[at + 2], cells[at + 3], counts[slot]);
            }
        }
    }

    private int slot(long keyHigh, long keyLow, long high, long low) {
        int mask = counts.length - 1;
        int slot = (int) (keyLow ^ low * 31) & mask;
        while (used[slot]) {
            int at = WIDTH * slot;
            if (cells[at] == keyHigh && cells[at + 1] == keyLow && cells[at + 2] == high && cells[at + 3] == low) {
                return slot;
            }
            slot = slot + 1 & mask;
        }
        return slot;
    }

    private void grow() {
        long[] oldCells = cells;
        int[] oldCounts = counts;
        boolean[] oldUsed = used;
        cells = new long[oldCells.length * 2];
        counts = new int[oldCounts.length * 2];
        used = new boolean[oldUsed.length * 2];
        size = 0;
        for (int i = 0; i < oldCounts.length; i++) {
            // what has come to nothing needs no place any more
            if (oldUsed[i] && oldCounts[i] != 0) {
                int at = WIDTH * i;
                add(oldCells[at], oldCells[at + 1], oldCells[at + 2], oldCells[at + 3], oldCounts[i]);
            }
        }
    }
}
