package org.orderlyferry.record.text;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.CharBuffer;
import java.nio.charset.StandardCharsets;
import org.apiguardian.api.API;

/** UTF-8 (RFC 3629): strict writing and strict checking, on ranges of bytes. */
@API(status = API.Status.INTERNAL)
public final class Utf8 {

    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
    private static final long HIGH_BITS = 0x8080808080808080L;

    private Utf8() {}

    /** A text's bytes; null if it holds half of a surrogate pair, for which there are none. */
    public static byte[] bytes(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (Character.isSurrogate(text.charAt(i))) {
                if (i + 1 == text.length() || !Character.isSurrogatePair(text.charAt(i), text.charAt(i + 1))) {
                    return null;
                }
                i++;
            }
        }
        return text.getBytes(StandardCharsets.UTF_8);
    }

    /** How many bytes a text takes at most: exactly as many where it is well-formed. */
    public static int length(CharSequence text) {
        long bytes = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            // each half of a pair makes two of its four bytes
            bytes += c < 0x80 ? 1 : c < 0x800 || Character.isSurrogate(c) ? 2 : 3;
        }
        return (int) Math.min(Integer.MAX_VALUE / 2, bytes);
    }

    /**
     * Writes text.
     *
     * @param to has room for three bytes per char
     * @return where the text ends, or -1 if it holds half of a surrogate pair
     */
    public static int encode(CharSequence text, byte[] to, int at) {
        int length = text.length();
        int end = at;
        for (int i = 0; i < length; i++) {
            char c = text.charAt(i);
            if (c < 0x80) {
                to[end++] = (byte) c;
            } else if (c < 0x800) {
                to[end++] = (byte) (0xC0 | c >> 6);
                to[end++] = (byte) (0x80 | c & 0x3F);
            } else if (!Character.isSurrogate(c)) {
                to[end++] = (byte) (0xE0 | c >> 12);
                to[end++] = (byte) (0x80 | c >> 6 & 0x3F);
                to[end++] = (byte) (0x80 | c & 0x3F);
            } else {
                if (!Character.isHighSurrogate(c) || i + 1 == length || !Character.isLowSurrogate(text.charAt(i + 1))) {
                    return -1;
                }
                int point = Character.toCodePoint(c, text.charAt(++i));
                to[end++] = (byte) (0xF0 | point >> 18);
                to[end++] = (byte) (0x80 | point >> 12 & 0x3F);
                to[end++] = (byte) (0x80 | point >> 6 & 0x3F);
                to[end++] = (byte) (0x80 | point & 0x3F);
            }
        }
        return end;
    }

    /** As {@link #encode(CharSequence, byte[], int)}, for so many characters of an array; most are ASCII. */
    public static int encode(char[] chars, int from, int length, byte[] to, int at) {
        int i = 0;
        while (i < length && chars[from + i] < 0x80) {
            to[at + i] = (byte) chars[from + i];
            i++;
        }
        return i == length ? at + i : encode(CharBuffer.wrap(chars, from + i, length - i), to, at + i);
    }

    /**
     * Looks for the first byte that can't stand where it stands: overlong forms, halves of surrogate pairs, anything
     * above U+10FFFF and sequences cut short among them.
     *
     * @return its place, or -1 if the range is valid
     */
    public static int firstInvalid(byte[] bytes, int start, int end) {
        int i = start;
        while (i + Long.BYTES <= end) {
            long others = (long) LONGS.get(bytes, i) & HIGH_BITS;
            if (others == 0) {
                i += Long.BYTES;
                continue;
            }
            // straight to the first that isn't ASCII
            i += Long.numberOfTrailingZeros(others) >>> 3;
            do {
                int more = continuation(bytes, i, end);
                if (more < 0) {
                    return i;
                }
                i += more;
            } while (i < end && bytes[i] < 0);
        }
        while (i < end) {
            int more = bytes[i] >= 0 ? 1 : continuation(bytes, i, end);
            if (more < 0) {
                return i;
            }
            i += more;
        }
        return -1;
    }

    /** How long the sequence at i is, or -1 if it isn't one. */
    private static int continuation(byte[] bytes, int i, int end) {
        int lead = bytes[i] & 0xFF;
        if (lead < 0xC2 || lead > 0xF4) {
            return -1;
        }
        int length = lead < 0xE0 ? 2 : lead < 0xF0 ? 3 : 4;
        if (i + length > end) {
            return -1;
        }
        int second = bytes[i + 1] & 0xFF;
        int low = lead == 0xE0 ? 0xA0 : lead == 0xF0 ? 0x90 : 0x80;
        int high = lead == 0xED ? 0x9F : lead == 0xF4 ? 0x8F : 0xBF;
        if (second < low || second > high) {
            return -1;
        }
        for (int k = 2; k < length; k++) {
            if ((bytes[i + k] & 0xC0) != 0x80) {
                return -1;
            }
        }
        return length;
    }

    /**
     * Whether text that is UTF-8 begins as that of another encoding may, or with a sign of the byte order: a parser that finds out encodings
     * by the first bytes (RFC 4627, section 3) would take it for that, or pass over the sign.
     */
    public static boolean looksLikeAnother(byte[] bytes, int start, int end) {
        for (int i = start; i < Math.min(end, start + 4); i++) {
            if (bytes[i] == 0) {
                return true;
            }
        }
        return end - start >= 3
                && bytes[start] == (byte) 0xEF
                && bytes[start + 1] == (byte) 0xBB
                && bytes[start + 2] == (byte) 0xBF;
    }

    /** Where the last character that is whole ends, if more bytes may follow; looks no further back than start. */
    public static int lastWhole(byte[] bytes, int start, int end) {
        int lead = end - 1;
        while (lead > start && lead > end - 4 && (bytes[lead] & 0xC0) == 0x80) {
            lead--;
        }
        if (lead < start || (bytes[lead] & 0x80) == 0) {
            return end;
        }
        int b = bytes[lead] & 0xFF;
        int length = b >= 0xF0 ? 4 : b >= 0xE0 ? 3 : b >= 0xC0 ? 2 : 1;
        return lead + length > end ? lead : end;
    }

    /** How many characters (code points) a valid range holds. */
    public static int characters(byte[] bytes, int start, int end) {
        int count = 0;
        for (int i = start; i < end; i++) {
            if ((bytes[i] & 0xC0) != 0x80) {
                count++;
            }
        }
        return count;
    }
}
