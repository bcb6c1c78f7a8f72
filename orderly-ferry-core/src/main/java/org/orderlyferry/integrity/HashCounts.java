package org.orderlyferry.integrity;

/** Counts hashes: open addressing, without an object a hash. Not safe for use by several threads. */
final class HashCounts {

    private final long[] highs;
    private final long[] lows;
    private final int[] counts;
    private final int mask;

    /** Room for so many different ones. */
    HashCounts(int most) {
        int size = Integer.highestOneBit(Math.max(8, most)) * 4;
        highs = new long[size];
        lows = new long[size];
        counts = new int[size];
        mask = size - 1;
    }

    /** Counts one. */
    void add(long high, long low) {
        int at = place(high, low);
        highs[at] = high;
        lows[at] = low;
        counts[at]++;
    }

    /** How often it was counted. */
    int count(long high, long low) {
        return counts[place(high, low)];
    }

    private int place(long high, long low) {
        int at = (int) low & mask;
        while (counts[at] != 0 && (lows[at] != low || highs[at] != high)) {
            at = at + 1 & mask;
        }
        return at;
    }
}
