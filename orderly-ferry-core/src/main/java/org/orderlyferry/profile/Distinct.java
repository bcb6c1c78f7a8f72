package org.orderlyferry.profile;

import com.dynatrace.hash4j.distinctcount.UltraLogLog;

/**
 * How many different values there are: about, for any number of them; and, as long as none came twice and memory allows,
 * whether they are all different.
 */
final class Distinct {

    private static final int PRECISION = 12;
    private static final int START = 1024;

    /** How many hashes all columns of a table may keep together. Not safe for use by several threads. */
    static final class Room {

        private static final int HEAP_SHARE = 4;

        private long left = Runtime.getRuntime().maxMemory() / HEAP_SHARE / Long.BYTES;

        private boolean take(long more) {
            if (more > left) {
                return false;
            }
            left -= more;
            return true;
        }
    }

    Distinct(Room room) {
        this.room = room;
    }

    private final UltraLogLog sketch = UltraLogLog.create(PRECISION);
    private final Room room;
    private long[] kept = new long[START];
    private int size;
    private boolean zero;
    private long firstTwice = -1;

    /**
     * Takes a value.
     *
     * @param hash of the value; two values with one hash count as one
     * @param line where it stands
     */
    void add(long hash, long line) {
        sketch.add(hash);
        if (kept != null && !remember(hash)) {
            firstTwice = line;
            drop();
        }
    }

    /** Takes a hash into the table; false if it is there already. */
    private boolean remember(long hash) {
        if (hash == 0) {
            boolean isNew = !zero;
            zero = true;
            return isNew;
        }
        if (size * 2 >= kept.length) {
            // while it grows, the old table is there too
            if (!room.take(kept.length * 3L)) {
                drop();
                return true;
            }
            grow();
        }
        if (!put(kept, hash)) {
            return false;
        }
        size++;
        return true;
    }

    private static boolean put(long[] table, long hash) {
        int at = slot(table, hash);
        while (table[at] != 0) {
            if (table[at] == hash) {
                return false;
            }
            at = at + 1 & table.length - 1;
        }
        table[at] = hash;
        return true;
    }

    private static int slot(long[] table, long hash) {
        return (int) (hash ^ hash >>> 32) & table.length - 1;
    }

    private void grow() {
        long[] larger = new long[kept.length * 2];
        for (long hash : kept) {
            if (hash != 0) {
                put(larger, hash);
            }
        }
        room.left += kept.length * 2L;
        kept = larger;
    }

    private void drop() {
        room.left += kept.length;
        kept = null;
    }

    /** Whether no value came twice, as far as that is known: all of them were kept. */
    boolean isUnique() {
        return kept != null && size + (zero ? 1 : 0) > 0;
    }

    /** Whether there were too many values to find out. */
    boolean isUnknown() {
        return kept == null && firstTwice < 0;
    }

    /** Where the first value stands that had come before; negative for nowhere. */
    long firstTwice() {
        return firstTwice;
    }

    /** Whether a value is among them; only while they are unique. */
    boolean contains(long hash) {
        if (hash == 0) {
            return zero;
        }
        int at = slot(kept, hash);
        while (kept[at] != 0) {
            if (kept[at] == hash) {
                return true;
            }
            at = at + 1 & kept.length - 1;
        }
        return false;
    }

    /** How many different values, about: exactly where they are unique. */
    long estimate() {
        return isUnique() ? size + (zero ? 1 : 0) : Math.round(sketch.getDistinctCountEstimate());
    }
}
