package org.orderlyferry.reconcile;

import java.util.Arrays;

/**
 * From 128-bit digests to others, without an object for any of them: open addressing, with the keys' own bits as their hash.
 * Not safe for use by several threads.
 */
final class DigestMap {

    private static final byte EMPTY = 0;
    private static final byte THERE = 1;
    private static final byte TAKEN = 2;

    /** What {@link #take} says of a key. */
    enum Found {
        ABSENT,
        SAME,
        OTHER
    }

    private long[] cells = new long[4 * 1024];
    private byte[] states = new byte[1024];
    private int used;
    private int size;
    private long takenHigh;
    private long takenLow;

    /** Adds a key that isn't there, or gives one that is another value. */
    void put(long keyHigh, long keyLow, long high, long low) {
        if (2 * (used + 1) > states.length) {
            grow();
        }
        int slot = slot(keyHigh, keyLow);
        if (states[slot] == EMPTY) {
            used++;
        }
        if (states[slot] != THERE) {
            size++;
        }
        states[slot] = THERE;
        cells[4 * slot] = keyHigh;
        cells[4 * slot + 1] = keyLow;
        cells[4 * slot + 2] = high;
        cells[4 * slot + 3] = low;
    }

    /** Takes a key out, and says whether it was there with a value. */
    Found take(long keyHigh, long keyLow, long high, long low) {
        int slot = slot(keyHigh, keyLow);
        if (states[slot] != THERE) {
            return Found.ABSENT;
        }
        states[slot] = TAKEN;
        size--;
        takenHigh = cells[4 * slot + 2];
        takenLow = cells[4 * slot + 3];
        return takenHigh == high && takenLow == low ? Found.SAME : Found.OTHER;
    }

    /** The upper half of the value that was taken out last. */
    long takenHigh() {
        return takenHigh;
    }

    /** The lower half of it. */
    long takenLow() {
        return takenLow;
    }

    /** The values that are left. */
    RecordSum left() {
        RunningSum sum = new RunningSum();
        for (int slot = 0; slot < states.length; slot++) {
            if (states[slot] == THERE) {
                sum.add(cells[4 * slot + 2], cells[4 * slot + 3]);
            }
        }
        return sum.sum();
    }

    boolean contains(long keyHigh, long keyLow) {
        return states[slot(keyHigh, keyLow)] == THERE;
    }

    int size() {
        return size;
    }

    void clear() {
        Arrays.fill(states, EMPTY);
        used = 0;
        size = 0;
    }

    /** Where a key is, or could be. */
    private int slot(long keyHigh, long keyLow) {
        int mask = states.length - 1;
        int slot = (int) keyLow & mask;
        while (states[slot] != EMPTY && (cells[4 * slot] != keyHigh || cells[4 * slot + 1] != keyLow)) {
            slot = slot + 1 & mask;
        }
        return slot;
    }

    private void grow() {
        long[] oldCells = cells;
        byte[] oldStates = states;
        states = new byte[oldStates.length * 2];
        cells = new long[states.length * 4];
        used = 0;
        size = 0;
        for (int i = 0; i < oldStates.length; i++) {
            if (oldStates[i] == THERE) {
                put(oldCells[4 * i], oldCells[4 * i + 1], oldCells[4 * i + 2], oldCells[4 * i + 3]);
            }
        }
    }
}
