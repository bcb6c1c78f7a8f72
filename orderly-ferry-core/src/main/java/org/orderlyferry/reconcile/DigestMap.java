package org.orderlyferry.reconcile;

import java.util.Arrays;

/**
 * From 128-bit digests to others, without an object for any of them. Keys that are taken out in about the order in which they
 * were put in, as records of two systems mostly come, are found next to the last one; for others there is an index, which is
 * made when the first of them is asked for. Not safe for use by several threads.
 */
final class DigestMap {

    private static final int CELLS = 4;

    /** So many keys are looked at behind the last one that was found. */
    private static final int NEAR = 4;

    /** What {@link #take} says of a key. */
    enum Found {
        ABSENT,
        SAME,
        OTHER
    }

    private long[] cells = new long[CELLS * 1024];
    private boolean[] taken = new boolean[1024];
    private int count;
    private int size;
    private int next;
    /** The places of keys, and 1; empty while there is no index. */
    private int[] index = {};

    private long takenHigh;
    private long takenLow;

    /** Adds a key; one that is there already is there once more. Not to be asked once keys are taken out. */
    void put(long keyHigh, long keyLow, long high, long low) {
        if (count == taken.length) {
            taken = Arrays.copyOf(taken, 2 * count);
            cells = Arrays.copyOf(cells, CELLS * taken.length);
        }
        int at = CELLS * count;
        cells[at] = keyHigh;
        cells[at + 1] = keyLow;
        cells[at + 2] = high;
        cells[at + 3] = low;
        count++;
        size++;
    }

    /** Takes a key out, and says whether it was there with a value. */
    Found take(long keyHigh, long keyLow, long high, long low) {
        int place = place(keyHigh, keyLow);
        if (place < 0) {
            return Found.ABSENT;
        }
        taken[place] = true;
        next = place + 1;
        size--;
        takenHigh = cells[CELLS * place + 2];
        takenLow = cells[CELLS * place + 3];
        return takenHigh == high && takenLow == low ? Found.SAME : Found.OTHER;
    }

    /** Where a key stands that wasn't taken out; -1 for nowhere. */
    private int place(long keyHigh, long keyLow) {
        int stop = Math.min(count, next + NEAR);
        for (int place = next; place < stop; place++) {
            if (isKey(place, keyHigh, keyLow) && !taken[place]) {
                return place;
            }
        }
        if (index.length == 0) {
            makeIndex();
        }
        int mask = index.length - 1;
        for (int slot = (int) keyLow & mask; index[slot] != 0; slot = slot + 1 & mask) {
            int place = index[slot] - 1;
            if (isKey(place, keyHigh, keyLow) && !taken[place]) {
                return place;
            }
        }
        return -1;
    }

    private boolean isKey(int place, long keyHigh, long keyLow) {
        return cells[CELLS * place + 1] == keyLow && cells[CELLS * place] == keyHigh;
    }

    private void makeIndex() {
        index = new int[Integer.highestOneBit(Math.max(1, count)) * CELLS];
        int mask = index.length - 1;
        for (int place = 0; place < count; place++) {
            int slot = (int) cells[CELLS * place + 1] & mask;
            while (index[slot] != 0) {
                slot = slot + 1 & mask;
            }
            index[slot] = place + 1;
        }
    }

    /** The upper half of the value that was taken out last. */
    long takenHigh() {
        return takenHigh;
    }

    /** The lower half of it. */
    long takenLow() {
        return takenLow;
    }

    /** How many keys weren't taken out. */
    int size() {
        return size;
    }

    /**
     * Keys of which none was taken out, with their values: of one that was there several times, and was taken out but once, nothing
     * is left.
     */
    DigestMap left() {
        DigestMap left = new DigestMap();
        for (int place = 0; size > 0 && place < count; place++) {
            if (!taken[place]) {
                left.put(
                        cells[CELLS * place],
                        cells[CELLS * place + 1],
                        cells[CELLS * place + 2],
                        cells[CELLS * place + 3]);
            }
        }
        for (int place = 0; left.size > 0 && place < count; place++) {
            if (taken[place]) {
                while (left.place(cells[CELLS * place], cells[CELLS * place + 1]) >= 0) {
                    left.take(cells[CELLS * place], cells[CELLS * place + 1], 0, 0);
                }
            }
        }
        return left;
    }

    /** The sum of the values that weren't taken out. */
    RecordSum sum() {
        RunningSum sum = new RunningSum();
        for (int place = 0; place < count; place++) {
            if (!taken[place]) {
                sum.add(cells[CELLS * place + 2], cells[CELLS * place + 3]);
            }
        }
        return sum.sum();
    }

    /** Whether a key is there that wasn't taken out. */
    boolean contains(long keyHigh, long keyLow) {
        return size > 0 && place(keyHigh, keyLow) >= 0;
    }

    void clear() {
        Arrays.fill(taken, 0, count, false);
        count = 0;
        size = 0;
        next = 0;
        index = new int[0];
    }
}
