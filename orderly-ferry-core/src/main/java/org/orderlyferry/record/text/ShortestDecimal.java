package org.orderlyferry.record.text;

import java.math.BigInteger;
import java.util.concurrent.atomic.AtomicReferenceArray;

/**
 * The shortest decimal that reads back to the same double, the closest one of these: the Schubfach algorithm of Raffaello
 * Giulietti ("The Schubfach way to render doubles", 2020), whose names are kept here. A double is {@code c * 2^q}; the
 * decimal is looked for between the two ends of what rounds to it, all multiplied by a power of ten, of which 126 bits are
 * enough. Safe for use by several threads.
 */
final class ShortestDecimal {

    /** Bytes that a number is written into: the longest has 24, and digits are put down eight at a time. */
    static final int ROOM = 32;

    /** Bits of a double's significand. */
    private static final int P = 53;

    private static final long C_MIN = 1L << P - 1;
    private static final int Q_MIN = -1074;
    private static final int EXPONENT_BITS = 0x7FF;

    /** Below that, a significand has too few digits to be looked for as it is. */
    private static final long C_TINY = 3;

    /** The exponents of ten that doubles need. */
    private static final int K_MIN = -324;

    private static final int K_MAX = 292;
    private static final int HALF = 63;
    private static final long MASK_63 = Long.MAX_VALUE;

    /** For each k, two times 63 bits of 10^-k, rounded up; worked out when first asked for, since few are in one table. */
    private static final AtomicReferenceArray<long[]> POWERS = new AtomicReferenceArray<>(K_MAX - K_MIN + 1);

    private ShortestDecimal() {}

    private static long[] power(int k) {
        long[] known = POWERS.getAcquire(k - K_MIN);
        return known == null ? added(k) : known;
    }

    private static long[] added(int k) {
        BigInteger ten = BigInteger.TEN.pow(Math.abs(k));
        BigInteger floor = k > 0
                // a power of two that leaves 126 bits
                ? BigInteger.ONE.shiftLeft(2 * HALF - 1 + ten.bitLength()).divide(ten)
                : ten.shiftLeft(2 * HALF - ten.bitLength());
        BigInteger g = floor.add(BigInteger.ONE);
        long[] power = {g.shiftRight(HALF).longValueExact(), g.longValue() & MASK_63};
        POWERS.setRelease(k - K_MIN, power);
        return power;
    }

    /**
     * Writes a finite number as {@link Double#toString} lays it out.
     *
     * @param to with room for {@link #ROOM} bytes, of which those behind the number may change
     * @return where it ends
     */
    static int write(double value, byte[] to, int from) {
        long bits = Double.doubleToRawLongBits(value);
        int at = from;
        if (bits < 0) {
            to[at++] = '-';
        }
        long fraction = bits & C_MIN - 1;
        int exponent = (int) (bits >>> P - 1) & EXPONENT_BITS;
        if (exponent > 0) {
            int mq = -Q_MIN + 1 - exponent;
            long c = C_MIN | fraction;
            if (mq > 0 && mq < P) {
                long whole = c >> mq;
                if (whole << mq == c) {
                    return DecimalLayout.write(whole, 0, to, at);
                }
            }
            return decimal(-mq, c, 0, to, at);
        }
        if (fraction == 0) {
            to[at] = '0';
            to[at + 1] = '.';
            to[at + 2] = '0';
            return at + 3;
        }
        return fraction < C_TINY ? decimal(Q_MIN, 10 * fraction, -1, to, at) : decimal(Q_MIN, fraction, 0, to, at);
    }

    private static int decimal(int q, long c, int dk, byte[] to, int at) {
        int out = (int) c & 1;
        long cb = c << 2;
        long cbr = cb + 2;
        long cbl;
        int k;
        if (c != C_MIN || q == Q_MIN) {
            cbl = cb - 2;
            k = flog10pow2(q);
        } else {
            cbl = cb - 1;
            k = flog10threeQuartersPow2(q);
        }
        int h = q + flog2pow10(-k) + 2;
        long[] power = power(k);
        long g1 = power[0];
        long g0 = power[1];
        long vb = rop(g1, g0, cb << h);
        long vbl = rop(g1, g0, cbl << h);
        long vbr = rop(g1, g0, cbr << h);
        long s = vb >> 2;
        if (s >= 100) {
            long sp10 = s / 10 * 10;
            long tp10 = sp10 + 10;
            boolean upin = vbl + out <= sp10 << 2;
            boolean wpin = (tp10 << 2) + out <= vbr;
            if (upin != wpin) {
                return DecimalLayout.write(upin ? sp10 : tp10, k, to, at);
            }
        }
        long t = s + 1;
        boolean uin = vbl + out <= s << 2;
        boolean win = (t << 2) + out <= vbr;
        if (uin != win) {
            return DecimalLayout.write(uin ? s : t, k + dk, to, at);
        }
        long closer = vb - (s + t << 1);
        return DecimalLayout.write(closer < 0 || closer == 0 && (s & 1) == 0 ? s : t, k + dk, to, at);
    }

    /** Rounds the product of a power and a significand to odd. */
    private static long rop(long g1, long g0, long cp) {
        long x1 = Math.multiplyHigh(g0, cp);
        long y0 = g1 * cp;
        long y1 = Math.multiplyHigh(g1, cp);
        long z = (y0 >>> 1) + x1;
        long w = y1 + (z >>> HALF);
        return w | (z & MASK_63) + MASK_63 >>> HALF;
    }

    private static int flog10pow2(int e) {
        return (int) (e * 661_971_961_083L >> 41);
    }

    private static int flog10threeQuartersPow2(int e) {
        return (int) (e * 661_971_961_083L - 274_743_187_321L >> 41);
    }

    private static int flog2pow10(int e) {
        return (int) (e * 913_124_641_741L >> 38);
    }
}
