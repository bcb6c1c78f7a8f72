package org.orderlyferry.profile;

import com.dynatrace.hash4j.distinctcount.UltraLogLog;
import java.util.Arrays;

/**
 * How many different values there are: about, for any number of them; and, as long as none came twice and memory allows,
 * whether they are all different.
 */
final class Distinct {

    /** Values that are kept to find one that comes twice: 16 bytes each, at the fullest. */
    private static final int MOST_KEPT = 4_000_000;

    private static final int PRECISION = 12;

    private final UltraLogLog sketch = UltraLogLog.create(PRECISION);
    private long[] kept = new long[1024];
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
            kept = null;
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
            if (size >= MOST_KEPT) {
                kept = null;
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
        Arrays.stream(kept).filter(h -> h != 0).forEach(h -> put(larger, h));
        kept = larger;
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
