package org.orderlyferry.record.text;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import org.apiguardian.api.API;

/** Where a byte first is among others. Most values don't have it, which is seen eight bytes at a time. */
@API(status = API.Status.INTERNAL)
public final class FirstByte {

    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
    private static final long ONES = 0x0101010101010101L;
    private static final long HIGH_BITS = 0x8080808080808080L;

    private FirstByte() {}

    /**
     * Where it first is from {@code start} on.
     *
     * @return {@code end} if it isn't there before
     */
    public static int of(byte wanted, byte[] bytes, int start, int end) {
        long eight = ONES * (wanted & 0xFF);
        int at = start;
        // what stands behind the end is looked at too, and doesn't count
        for (; at < end && at + Long.BYTES <= bytes.length; at += Long.BYTES) {
            long other = (long) LONGS.get(bytes, at) ^ eight;
            long found = other - ONES & ~other & HIGH_BITS;
            if (found != 0) {
                return Math.min(end, at + (Long.numberOfTrailingZeros(found) >>> 3));
            }
        }
        while (at < end && bytes[at] != wanted) {
            at++;
        }
        return Math.min(at, end);
    }
}
