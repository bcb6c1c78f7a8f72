package org.orderlyferry.record;

import java.nio.charset.StandardCharsets;

/** Whole numbers as ASCII digits, without a String in between. */
final class Digits {

    private static final byte[] SMALLEST = Long.toString(Long.MIN_VALUE).getBytes(StandardCharsets.US_ASCII);

    private Digits() {}

    /** Writes a number and returns where it ends. */
    static int write(long number, byte[] to, int at) {
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
        do {
            to[--i] = (byte) ('0' + rest % 10);
            rest /= 10;
        } while (rest != 0);
        return end;
    }

    private static int length(long positive) {
        int digits = 1;
        for (long bound = 10; digits < 19 && positive >= bound; bound *= 10) {
            digits++;
        }
        return digits;
    }
}
