package org.orderlyferry.tally;

import java.util.Locale;

/**
 * A sum of 128-bit hashes modulo 2^128: it doesn't depend on their order, adds up across parts, and changes when
 * something is there twice.
 *
 * @param high the upper 64 bits
 * @param low the lower 64 bits
 */
public record Digest(long high, long low) {

    public static final Digest ZERO = new Digest(0, 0);

    /** Reads what {@link #toString()} writes. */
    public static Digest parse(String hex) {
        if (hex.length() != 32) {
            throw new IllegalArgumentException("not a digest: " + hex);
        }
        return new Digest(Long.parseUnsignedLong(hex, 0, 16, 16), Long.parseUnsignedLong(hex, 16, 32, 16));
    }

    /** The digest of both one's values and the other's. */
    public Digest plus(Digest other) {
        long sum = low + other.low;
        long carry = Long.compareUnsigned(sum, low) < 0 ? 1 : 0;
        return new Digest(high + other.high + carry, sum);
    }

    /** What is left of it without another that it was made of. */
    public Digest minus(Digest other) {
        long borrow = Long.compareUnsigned(low, other.low) < 0 ? 1 : 0;
        return new Digest(high - other.high - borrow, low - other.low);
    }

    /** 32 hexadecimal digits. */
    @Override
    public String toString() {
        return String.format(Locale.ROOT, "%016x%016x", high, low);
    }
}
