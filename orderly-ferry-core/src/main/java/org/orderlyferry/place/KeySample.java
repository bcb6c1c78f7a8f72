package org.orderlyferry.place;

/**
 * Some of a table's records, the same ones wherever they are read: those whose key, a whole number, falls into a share of the
 * ten thousand classes that it is hashed to. It is reckoned in arithmetic that every system has alike, so that a server can
 * leave the others out itself. What is null is in no sample.
 *
 * @param column the key's only column
 * @param share how many classes of the {@value #CLASSES}
 */
public record KeySample(String column, int share) {

    /** How many classes there are. */
    public static final int CLASSES = 10_000;

    /** A prime, so that keys in steps of round numbers fall into all classes; small enough for a product of 32 bits. */
    public static final int PRIME = 100_003;

    /** Spreads neighbours over the classes. */
    public static final int FACTOR = 7_919;

    public KeySample {
        if (share < 1 || share >= CLASSES) {
            throw new IllegalArgumentException("a sample has between one and all of the classes");
        }
    }

    /** Whether the record of a key is in it. */
    public boolean has(long key) {
        return Math.abs(key % PRIME) * FACTOR % CLASSES < share;
    }
}
