package org.orderlyferry.record.text;

import java.nio.charset.StandardCharsets;
import org.apiguardian.api.API;

/** Whole numbers as ASCII digits, without a String in between. */
@API(status = API.Status.INTERNAL)
public final class Digits {

    private static final byte[] SMALLEST = Long.toString(Long.MIN_VALUE).getBytes(StandardCharsets.US_ASCII);

    /** The two digits of each number up to 99. */
    private static final byte[] PAIRS = new byte[200];

    private static final long[] POWERS = new long[19];

    static {
        for (int i = 0; i < 100; i++) {
            PAIRS[2 * i] = (byte) ('0' + i / 10);
            PAIRS[2 * i + 1] = (byte) ('0' + i % 10);
        }
        POWERS[0] = 1;
        for (int i = 1; i < POWERS.length; i++) {
            POWERS[i] = POWERS[i - 1] * 10;
        }
    }

    private Digits() {}

    /** Writes a number and returns where it ends; it takes up to 20 bytes. */
    public static int write(long number, byte[] to, int at) {
        if (number == Long.MIN_VALUE) {
            System.arraycopy(SMALLEST, 0, to, at, SMALLEST.length);
            return at + SMALLEST.length;
        }
        long rest = number;
        int start = at;
        if (rest < 0) {
            to[start++] = '-';
            rest = -rest;
        }
        int end = start + length(rest);
        int i = end;
        while (rest > Integer.MAX_VALUE) {
            long hundredth = rest / 100;
            i = pair((int) (rest - hundredth * 100), to, i);
            rest = hundredth;
        }
        int small = (int) rest;
        while (small >= 100) {
            int hundredth = small / 100;
            i = pair(small - hundredth * 100, to, i);
            small = hundredth;
        }
        if (small >= 10) {
            pair(small, to, i);
        } else {
            to[i - 1] = (byte) ('0' + small);
        }
        return end;
    }

    /**
     * Reads what {@link #write} writes; of other texts anything may come.
     *
     * @param start where it begins
     * @param end where it ends, exclusive
     */
    public static long read(byte[] text, int start, int end) {
        boolean negative = text[start] == '-';
        long number = 0;
        for (int at = negative ? start + 1 : start; at < end; at++) {
            number = number * 10 + text[at] - '0';
        }
        // the smallest of all has no opposite, and comes to itself
        return negative ? -number : number;
    }

    private static int pair(int number, byte[] to, int end) {
        to[end - 1] = PAIRS[2 * number + 1];
        to[end - 2] = PAIRS[2 * number];
        return end - 2;
    }

    /** Writes a number from 0 to 99 as two digits. */
    public static void two(int number, byte[] to, int at) {
        to[at] = PAIRS[2 * number];
        to[at + 1] = PAIRS[2 * number + 1];
    }

    /** How many digits a number has that isn't negative. */
    static int length(long number) {
        // 1233 / 4096 is a little less than the logarithm of 2 to the base of 10
        int about = (Long.SIZE - Long.numberOfLeadingZeros(number | 1)) * 1233 >>> 12;
        return number < POWERS[about] ? Math.max(1, about) : about + 1;
    }
}
