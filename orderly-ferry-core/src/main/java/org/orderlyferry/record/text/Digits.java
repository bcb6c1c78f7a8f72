package org.orderlyferry.record.text;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import org.apiguardian.api.API;

/** Whole numbers as ASCII digits, without a String in between. */
@API(status = API.Status.INTERNAL)
public final class Digits {

    private static final byte[] SMALLEST = Long.toString(Long.MIN_VALUE).getBytes(StandardCharsets.US_ASCII);

    /** The two digits of each number up to 99. */
    private static final byte[] PAIRS = new byte[200];

    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

    static final int EIGHT_DIGITS = 100_000_000;

    private static final long ZEROS = 0x30303030_30303030L;

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

    /** Writes a number and returns where it ends; there must be room for 20 bytes, of which those behind it may change. */
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
        if (rest < EIGHT_DIGITS) {
            return first((int) rest, to, start);
        }
        long upper = rest / EIGHT_DIGITS;
        int end;
        if (upper < EIGHT_DIGITS) {
            end = first((int) upper, to, start);
        } else {
            long uppermost = upper / EIGHT_DIGITS;
            end = first((int) uppermost, to, start);
            eight((int) (upper - uppermost * EIGHT_DIGITS), to, end);
            end += Long.BYTES;
        }
        eight((int) (rest - upper * EIGHT_DIGITS), to, end);
        return end + Long.BYTES;
    }

    /** Writes a number of up to eight digits, without zeros before it. */
    private static int first(int number, byte[] to, int at) {
        long digits = digits(number);
        // the first digit stands in the lowest byte; of zero, one is left
        int zeros = Long.numberOfTrailingZeros(digits | 1L << 56) & -Byte.SIZE;
        LONGS.set(to, at, (digits | ZEROS) >>> zeros);
        return at + Long.BYTES - zeros / Byte.SIZE;
    }

    /**
     * Writes a number below a hundred millions as eight digits, those before it zeros.
     *
     * @return how many of them are zeros at the end
     */
    static int eight(int number, byte[] to, int at) {
        long digits = digits(number);
        LONGS.set(to, at, digits | ZEROS);
        return Long.numberOfLeadingZeros(digits) / Byte.SIZE;
    }

    /** How many digits a number has that isn't negative. */
    static int length(long number) {
        // 1233 / 4096 is a little less than the logarithm of 2 to the base of 10
        int about = (Long.SIZE - Long.numberOfLeadingZeros(number | 1)) * 1233 >>> 12;
        return number < POWERS[about] ? Math.max(1, about) : about + 1;
    }

    /** A power of ten, up to 10^18. */
    static long power(int exponent) {
        return POWERS[exponent];
    }

    /**
     * Eight digits, one in each byte, the first in the lowest: halves, quarters and eighths of the number are parted at the
     * same time, each by a multiplication that divides by a hundred or by ten and is exact for what small numbers these are.
     */
    private static long digits(int number) {
        int upper = number / 10_000;
        long halves = upper | (long) (number - upper * 10_000) << 32;
        long hundreds = halves * 5243 >>> 19 & 0x0000007F_0000007FL;
        long quarters = hundreds | halves - hundreds * 100 << 16;
        long tens = quarters * 103 >>> 10 & 0x000F000F_000F000FL;
        return tens | quarters - tens * 10 << 8;
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

    /** Writes a number from 0 to 99 as two digits. */
    public static void two(int number, byte[] to, int at) {
        to[at] = PAIRS[2 * number];
        to[at + 1] = PAIRS[2 * number + 1];
    }
}
