package org.orderlyferry.tally;

import com.dynatrace.hash4j.hashing.HashValue128;
import com.dynatrace.hash4j.hashing.Hasher128;
import com.dynatrace.hash4j.hashing.Hashing;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Arrays;

/**
 * The 128-bit hash of one value. Up to fifteen bytes it is MurmurHash3 (x64, 128 bits), which mixes them and their length
 * without losing anything: two such values of one length never have the same hash. Longer ones are hashed by XXH3. Makes no
 * garbage for short values. Not safe for use by several threads.
 */
final class CellHash {

    /** Any number but 0, by which an empty text would have no hash to speak of. */
    static final int SEED = 0x51ab_0e37;

    /** Values of so many bytes are hashed here. */
    static final int SHORT = 15;

    private static final Hasher128 LONGER = Hashing.xxh3_128();
    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

    private static final long C1 = 0x87c37b91114253d5L;
    private static final long C2 = 0x4cf5ad432745937fL;

    private final byte[] padded = new byte[2 * Long.BYTES];
    private long high;
    private long low;

    long high() {
        return high;
    }

    long low() {
        return low;
    }

    /** Hashes these bytes. */
    void of(byte[] bytes, int start, int end) {
        int length = end - start;
        if (length > SHORT) {
            HashValue128 hash = LONGER.hashBytesTo128Bits(bytes, start, length);
            high = hash.getMostSignificantBits();
            low = hash.getLeastSignificantBits();
            return;
        }
        if (start + 2 * Long.BYTES <= bytes.length) {
            mix((long) LONGS.get(bytes, start), (long) LONGS.get(bytes, start + Long.BYTES), length);
        } else {
            // at an array's very end
            Arrays.fill(padded, (byte) 0);
            System.arraycopy(bytes, start, padded, 0, length);
            mix((long) LONGS.get(padded, 0), (long) LONGS.get(padded, Long.BYTES), length);
        }
    }

    /** MurmurHash3 of a tail alone; what stands behind the value in the words is cut off. */
    private void mix(long first, long second, int length) {
        long h1 = SEED;
        long h2 = SEED;
        if (length > Long.BYTES) {
            long k2 = second & (-1L >>> (8 * (2 * Long.BYTES - length)));
            h2 ^= Long.rotateLeft(k2 * C2, 33) * C1;
        }
        if (length > 0) {
            long k1 = length >= Long.BYTES ? first : first & (-1L >>> (8 * (Long.BYTES - length)));
            h1 ^= Long.rotateLeft(k1 * C1, 31) * C2;
        }
        h1 ^= length;
        h2 ^= length;
        h1 += h2;
        h2 += h1;
        h1 = avalanche(h1);
        h2 = avalanche(h2);
        h1 += h2;
        h2 += h1;
        low = h1;
        high = h2;
    }

    /** Lets each bit change all others; nothing is lost by it. */
    static long avalanche(long value) {
        long mixed = value;
        mixed ^= mixed >>> 33;
        mixed *= 0xff51afd7ed558ccdL;
        mixed ^= mixed >>> 33;
        mixed *= 0xc4ceb9fe1a85ec53L;
        mixed ^= mixed >>> 33;
        return mixed;
    }
}
