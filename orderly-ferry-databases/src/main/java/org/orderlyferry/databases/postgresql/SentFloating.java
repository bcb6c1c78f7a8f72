package org.orderlyferry.databases.postgresql;

import ch.randelshofer.fastdoubleparser.JavaDoubleParser;
import ch.randelshofer.fastdoubleparser.JavaFloatParser;

/** Puts binary floating point numbers: the bits that their text reads to, as the server itself would read it. */
final class SentFloating extends SentField {

    /** So many digits are a number that a double holds, and dividing it by one of these powers rounds but once. */
    private static final int EXACT_DIGITS = 15;

    private static final double[] POWERS = new double[EXACT_DIGITS + 1];

    static {
        POWERS[0] = 1;
        for (int i = 1; i < POWERS.length; i++) {
            POWERS[i] = POWERS[i - 1] * 10;
        }
    }

    private final boolean single;

    /**
     * A field for numbers.
     *
     * @param single whether they have 32 bits, and not 64
     */
    SentFloating(boolean single) {
        this.single = single;
    }

    @Override
    int put(byte[] b, int start, int end, byte[] to, int at) {
        if (single) {
            return single(b, start, end, to, at);
        }
        boolean negative = start < end && b[start] == '-';
        long digits = 0;
        int count = 0;
        int point = -1;
        for (int i = negative ? start + 1 : start; i < end; i++) {
            if (isDigit(b[i]) && count < EXACT_DIGITS) {
                digits = digits * 10 + (b[i] - '0');
                count++;
            } else if (b[i] == '.' && point < 0 && count > 0) {
                point = count;
            } else {
                return any(b, start, end, to, at);
            }
        }
        if (digits == 0 || point == count) {
            return any(b, start, end, to, at);
        }
        double value = digits / POWERS[point < 0 ? 0 : count - point];
        return number(to, at, Double.doubleToLongBits(negative ? -value : value));
    }

    private static int any(byte[] b, int start, int end, byte[] to, int at) {
        if (!isDecimal(b, start, end)) {
            double word = word(b, start, end);
            return word == 0 ? ODD : number(to, at, Double.doubleToLongBits(word));
        }
        double value = JavaDoubleParser.parseDouble(b, start, end - start);
        return Double.isInfinite(value) || value == 0 && isOther(b, start, end)
                ? ODD
                : number(to, at, Double.doubleToLongBits(value));
    }

    private static int single(byte[] b, int start, int end, byte[] to, int at) {
        if (!isDecimal(b, start, end)) {
            double word = word(b, start, end);
            return word == 0 ? ODD : number(to, at, Float.floatToIntBits((float) word));
        }
        float value = JavaFloatParser.parseFloat(b, start, end - start);
        return Float.isInfinite(value) || value == 0 && isOther(b, start, end)
                ? ODD
                : number(to, at, Float.floatToIntBits(value));
    }

    /** Whether it is a number in decimal notation, with or without an exponent. */
    private static boolean isDecimal(byte[] b, int start, int end) {
        int first = start < end && b[start] == '-' ? start + 1 : start;
        int i = digits(b, first, end);
        if (i == first) {
            return false;
        }
        if (i < end && b[i] == '.') {
            int fraction = i + 1;
            i = digits(b, fraction, end);
            if (i == fraction) {
                return false;
            }
        }
        if (i < end && b[i] == 'E') {
            int exponent = i + 1 < end && b[i + 1] == '-' ? i + 2 : i + 1;
            i = digits(b, exponent, end);
            if (i == exponent) {
                return false;
            }
        }
        return i == end;
    }

    /** Whether a number isn't zero: one that is read as zero all the same is too small, which the server refuses. */
    private static boolean isOther(byte[] b, int start, int end) {
        for (int i = start; i < end && b[i] != 'E'; i++) {
            if (b[i] >= '1' && b[i] <= '9') {
                return true;
            }
        }
        return false;
    }

    /** What no digits stand for; 0 for any other text. */
    private static double word(byte[] b, int start, int end) {
        boolean negative = start < end && b[start] == '-';
        int first = negative ? start + 1 : start;
        if (end - first != 3) {
            return 0;
        }
        if (b[first] == 'I' && b[first + 1] == 'N' && b[first + 2] == 'F') {
            return negative ? Double.NEGATIVE_INFINITY : Double.POSITIVE_INFINITY;
        }
        return !negative && b[first] == 'N' && b[first + 1] == 'a' && b[first + 2] == 'N' ? Double.NaN : 0;
    }
}
