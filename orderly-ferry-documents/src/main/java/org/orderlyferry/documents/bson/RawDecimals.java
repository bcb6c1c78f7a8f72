package org.orderlyferry.documents.bson;

/** Exact numbers of documents in their two halves (IEEE 754-2019, decimal128, binary integer encoding), those of few digits. */
final class RawDecimals {

    private static final int BIAS = 6176;

    /** Digits that a double has for certain. */
    private static final long FEW = 1_000_000_000_000_000L;

    /** Digits behind the point of those that are read and written here. */
    private static final int MOST_BEHIND = 18;

    /** The least exponent of a first digit for which the usual text of a number has no exponent. */
    private static final int LEAST_PLAIN = -6;

    private static final long SIGN = 1L << 63;
    private static final int EXPONENT_AT = 49;

    private RawDecimals() {}

    private static int exponent(long high) {
        return (int) (high >>> EXPONENT_AT & 0x3fff) - BIAS;
    }

    /**
     * Whether a number {@link #isShort}, and its usual text has no exponent: JSON's number of that text is whole or a double, which has
     * all its digits, and not an exact one.
     */
    static boolean isOtherInJson(long high, long low) {
        return isShort(high, low) && adjusted(low, exponent(high)) >= LEAST_PLAIN;
    }

    /** Whether a number is written just by its digits and a point, and is no negative zero. */
    static boolean isShort(long high, long low) {
        int exponent = exponent(high);
        boolean special = (high >>> 61 & 3) == 3;
        return !special
                && (high & (1L << EXPONENT_AT) - 1) == 0
                && low >= 0
                && low < FEW
                && exponent <= 0
                && exponent >= -MOST_BEHIND
                && (low != 0 || high >= 0);
    }

    private static int adjusted(long digits, int exponent) {
        int count = 1;
        for (long rest = digits / 10; rest != 0; rest /= 10) {
            count++;
        }
        return exponent + count - 1;
    }

    /** Writes a number that {@link #isShort} by its digits, with as many behind the point as it has. */
    static void write(long high, long low, GrowingBytes to) {
        if (high < 0) {
            to.add('-');
        }
        int behind = -exponent(high);
        long power = 1;
        for (int i = 0; i < behind; i++) {
            power *= 10;
        }
        to.digits(low / power);
        if (behind > 0) {
            to.add('.');
            long rest = low % power;
            for (long digit = power / 10; digit > 0; digit /= 10) {
                to.add('0' + (int) (rest / digit % 10));
            }
        }
    }

    /**
     * Writes a decimal value text as an exact number.
     *
     * @return false, with nothing written, if it has too many digits for it
     */
    static boolean encode(byte[] in, int start, int end, GrowingBytes to) {
        boolean negative = start < end && in[start] == '-';
        int from = negative ? start + 1 : start;
        if (end - from > MOST_BEHIND || from == end || in[from] == '.' || in[end - 1] == '.') {
            return false;
        }
        long digits = 0;
        int behind = 0;
        boolean point = false;
        for (int i = from; i < end; i++) {
            byte b = in[i];
            if (b == '.' && !point) {
                point = true;
            } else if (b >= '0' && b <= '9') {
                digits = digits * 10 + b - '0';
                behind += point ? 1 : 0;
            } else {
                return false;
            }
        }
        to.int64(digits);
        to.int64((negative && digits != 0 ? SIGN : 0) | (long) (BIAS - behind) << EXPONENT_AT);
        return true;
    }
}
