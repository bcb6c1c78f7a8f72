package org.orderlyferry.record.text;

/**
 * Lays a decimal out as {@link Double#toString} does: from 10^-3 to below 10^7 with its point in place, all else with one
 * digit before it and an exponent; with at least one digit behind the point, and no zeros at the end but for that one.
 */
final class DecimalLayout {

    /** No double needs more digits. */
    private static final int MOST_DIGITS = 17;

    private static final int EIGHT = 8;

    private DecimalLayout() {}

    /**
     * Writes {@code f * 10^e}.
     *
     * @param f with at most 17 digits, and at least one
     * @param to with room for 31 bytes, of which those behind the number may change
     * @return where it ends
     */
    static int write(long f, int e, byte[] to, int at) {
        int length = Digits.length(f);
        long digits = f * Digits.power(MOST_DIGITS - length);
        // the number is 0.DIGITS * 10^scale
        int scale = e + length;
        if (scale > 0 && scale <= 7) {
            int end = digits(digits, to, at + 1);
            for (int i = at; i < at + scale; i++) {
                to[i] = to[i + 1];
            }
            to[at + scale] = '.';
            return Math.max(end, at + scale + 2);
        }
        if (scale > -3 && scale <= 0) {
            to[at] = '0';
            to[at + 1] = '.';
            to[at + 2] = '0';
            to[at + 3] = '0';
            return digits(digits, to, at + 2 - scale);
        }
        int end = Math.max(digits(digits, to, at + 1), at + 3);
        to[at] = to[at + 1];
        to[at + 1] = '.';
        to[end] = 'E';
        return Digits.write(scale - 1, to, end + 1);
    }

    /**
     * Writes 17 digits.
     *
     * @return where the last one ends that isn't zero
     */
    private static int digits(long number, byte[] to, int at) {
        long upper = number / Digits.EIGHT_DIGITS;
        int first = (int) (upper / Digits.EIGHT_DIGITS);
        to[at] = (byte) ('0' + first);
        int zeros = Digits.eight((int) (upper - first * (long) Digits.EIGHT_DIGITS), to, at + 1);
        int last = Digits.eight((int) (number - upper * Digits.EIGHT_DIGITS), to, at + 1 + EIGHT);
        int none = last < EIGHT ? last : EIGHT + zeros;
        return at + MOST_DIGITS - none;
    }
}
