package org.orderlyferry.tally;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * The canonical form of JSON as most of it is: texts with the short escapes alone, numbers of few digits, names in ASCII. It goes
 * over the bytes once and makes no objects of what it finds; whatever is out of the ordinary is left to {@link CanonicalJson}, and
 * so is what isn't JSON.
 */
final class PlainJson {

    private static final int DEEPEST = 100;
    private static final int MOST_FIELDS = 1_000;

    /** So many decimal digits survive in every double, and no two such numbers are the same one. */
    private static final int SURE_DIGITS = 15;

    /** A fraction that begins with so many zeros may be written with an exponent. */
    private static final int FEW_ZEROS = 5;

    private final byte[] in;
    private final int end;
    private final byte[] out;
    private int at;
    private int size;

    private PlainJson(byte[] in, int start, int end) {
        this.in = in;
        this.at = start;
        this.end = end;
        // nothing becomes longer
        this.out = new byte[end - start];
    }

    /** The canonical form; null where it has to be found in another way, or there is none. */
    static byte @Nullable [] of(byte[] bytes, int start, int end) {
        PlainJson json = new PlainJson(bytes, start, end);
        if (!json.value(0)) {
            return null;
        }
        json.blanks();
        return json.at == end ? Arrays.copyOf(json.out, json.size) : null;
    }

    private void blanks() {
        while (at < end && (in[at] == ' ' || in[at] == '\t' || in[at] == '\n' || in[at] == '\r')) {
            at++;
        }
    }

    private boolean value(int depth) {
        blanks();
        if (at == end || depth > DEEPEST) {
            return false;
        }
        return switch (in[at]) {
            case '{' -> object(depth);
            case '[' -> array(depth);
            case '"' -> text(false);
            case 't' -> word("true");
            case 'f' -> word("false");
            case 'n' -> word("null");
            default -> number();
        };
    }

    private boolean word(String word) {
        if (end - at < word.length()) {
            return false;
        }
        for (int i = 0; i < word.length(); i++) {
            if (in[at] != word.charAt(i)) {
                return false;
            }
            out[size++] = in[at++];
        }
        return true;
    }

    private boolean array(int depth) {
        out[size++] = in[at++];
        blanks();
        if (at < end && in[at] == ']') {
            out[size++] = in[at++];
            return true;
        }
        while (value(depth + 1)) {
            blanks();
            if (at == end || in[at] != ',' && in[at] != ']') {
                return false;
            }
            out[size++] = in[at];
            if (in[at++] == ']') {
                return true;
            }
        }
        return false;
    }

    private boolean object(int depth) {
        int start = size;
        out[size++] = in[at++];
        blanks();
        if (at < end && in[at] == '}') {
            out[size++] = in[at++];
            return true;
        }
        int[] members = new int[16];
        int count = 0;
        boolean sorted = true;
        while (true) {
            blanks();
            if (count + 1 == members.length) {
                members = Arrays.copyOf(members, count * 2);
            }
            members[count] = size;
            if (at == end || in[at] != '"' || !text(true)) {
                return false;
            }
            if (count > 0) {
                int order = compare(members[count - 1], members[count]);
                if (order == 0) {
                    return false;
                }
                sorted &= order < 0;
            }
            count++;
            blanks();
            if (at == end || in[at++] != ':') {
                return false;
            }
            out[size++] = ':';
            if (!value(depth + 1)) {
                return false;
            }
            blanks();
            if (at == end || in[at] != ',' && in[at] != '}' || count > MOST_FIELDS) {
                return false;
            }
            out[size++] = in[at];
            if (in[at++] == '}') {
                members[count] = size;
                return sorted || sort(start, members, count);
            }
        }
    }

    /** Which of two names comes first: up to the quotes that end them, which come before any letter of a longer one. */
    private int compare(int one, int other) {
        for (int i = 1; ; i++) {
            byte a = out[one + i];
            byte b = out[other + i];
            if (a != b) {
                return a == '"' ? -1 : b == '"' ? 1 : Integer.compare(a, b);
            }
            if (a == '"') {
                return 0;
            }
        }
    }

    /** Puts members in the order of their names; each has one byte behind it, a comma or the end of the object. */
    private boolean sort(int start, int[] members, int count) {
        int[] order = new int[count];
        for (int i = 0; i < count; i++) {
            int place = i;
            while (place > 0) {
                int compared = compare(members[order[place - 1]], members[i]);
                if (compared == 0) {
                    return false;
                }
                if (compared < 0) {
                    break;
                }
                order[place] = order[place - 1];
                place--;
            }
            order[place] = i;
        }
        byte[] sorted = new byte[size - start];
        sorted[0] = '{';
        int length = 1;
        for (int i = 0; i < count; i++) {
            int from = members[order[i]];
            int bytes = members[order[i] + 1] - from - 1;
            System.arraycopy(out, from, sorted, length, bytes);
            length += bytes;
            sorted[length++] = (byte) (i == count - 1 ? '}' : ',');
        }
        System.arraycopy(sorted, 0, out, start, length);
        return true;
    }

    /**
     * A text as it stands.
     *
     * @param name whether it is a name, by which is sorted: of ASCII alone, without escapes
     */
    private boolean text(boolean name) {
        out[size++] = in[at++];
        while (at < end) {
            byte b = in[at];
            if (b == '"') {
                out[size++] = b;
                at++;
                return true;
            }
            if (b == '\\') {
                if (name || at + 1 == end || "\"\\bfnrt".indexOf(in[at + 1]) < 0) {
                    return false;
                }
                out[size++] = b;
                at++;
                b = in[at];
            } else if (b >= 0 && b < ' ' || name && b < 0) {
                return false;
            }
            out[size++] = b;
            at++;
        }
        return false;
    }

    private boolean number() {
        int start = at;
        if (in[at] == '-') {
            at++;
        }
        int whole = at;
        digits();
        int wholeDigits = at - whole;
        if (wholeDigits == 0 || wholeDigits > 1 && in[whole] == '0') {
            return false;
        }
        int fraction = 0;
        int zeros = 0;
        int last = at;
        if (at < end && in[at] == '.') {
            at++;
            int from = at;
            digits();
            fraction = at - from;
            while (zeros < fraction && in[from + zeros] == '0') {
                zeros++;
            }
            if (fraction == 0) {
                return false;
            }
            if (zeros < fraction) {
                last = at;
                while (in[last - 1] == '0') {
                    last--;
                }
            }
        }
        boolean ends = at == end || in[at] == ',' || in[at] == ']' || in[at] == '}' || in[at] == ' ' || in[at] == '\n';
        boolean nothing = in[whole] == '0' && zeros == fraction;
        if (!ends || wholeDigits + fraction > SURE_DIGITS || in[whole] == '0' && zeros >= FEW_ZEROS && !nothing) {
            return false;
        }
        int from = nothing ? whole : start;
        System.arraycopy(in, from, out, size, last - from);
        size += last - from;
        return true;
    }

    private void digits() {
        while (at < end && in[at] >= '0' && in[at] <= '9') {
            at++;
        }
    }
}
