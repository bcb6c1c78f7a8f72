package org.orderlyferry.databases.sql;

import java.nio.charset.StandardCharsets;
import org.apiguardian.api.API;

/** What stands behind a backslash in strings of MariaDB, and in PostgreSQL's {@code E'…'}, which has escapes of its own. */
@API(status = API.Status.INTERNAL)
public enum BackslashEscape {
    MARIADB,
    POSTGRESQL;

    private static final int OCTAL = 8;
    private static final int HEX = 16;

    /**
     * Takes one.
     *
     * @param at where the character behind the backslash is
     * @param bytes whether a character stands for each byte of UTF-8, rather than for itself
     * @return where what comes after it begins
     */
    public int take(String sql, int at, boolean bytes, StringBuilder text) {
        char c = sql.charAt(at);
        if (this == MARIADB) {
            // for patterns, and so kept elsewhere
            text.append(c == '%' || c == '_' ? "\\" : "").append(meant(c));
            return at + 1;
        }
        if (c == 'u' || c == 'U') {
            return point(sql, at, bytes, text);
        }
        int from = c == 'x' ? at + 1 : at;
        int end = digits(sql, from, c == 'x' ? 2 : 3, c == 'x' ? HEX : OCTAL);
        if (end > from) {
            text.append((char) (Integer.parseInt(sql.substring(from, end), c == 'x' ? HEX : OCTAL) & 0xFF));
            return end;
        }
        text.append(c == 'Z' ? c : meant(c));
        return at + 1;
    }

    /** A code point, or one half of it, whose other half stands behind it. */
    private static int point(String sql, int at, boolean bytes, StringBuilder text) {
        int length = sql.charAt(at) == 'u' ? 4 : 8;
        int end = digits(sql, at + 1, length, HEX);
        if (end < at + 1 + length) {
            throw new IllegalArgumentException("has a string with an escape that is cut short");
        }
        long value = Long.parseLong(sql.substring(at + 1, end), HEX);
        boolean low = value <= Character.MAX_VALUE
                && Character.isHighSurrogate((char) value)
                && sql.startsWith("\\u", end)
                && digits(sql, end + 2, 4, HEX) == end + 6;
        String said = value <= Character.MAX_VALUE
                ? String.valueOf((char) value)
                        + (low ? (char) Integer.parseInt(sql.substring(end + 2, end + 6), HEX) : "")
                : Character.isValidCodePoint((int) value) ? Character.toString((int) value) : "\uD800";
        if (said.codePoints().anyMatch(p -> p <= Character.MAX_VALUE && Character.isSurrogate((char) p))) {
            throw new IllegalArgumentException("has a string with an escape that stands for no character");
        }
        text.append(bytes ? new String(said.getBytes(StandardCharsets.UTF_8), StandardCharsets.ISO_8859_1) : said);
        return low ? end + 6 : end;
    }

    private static int digits(String sql, int from, int most, int radix) {
        int end = from;
        while (end < sql.length() && end < from + most && Character.digit(sql.charAt(end), radix) >= 0) {
            end++;
        }
        return end;
    }

    /** What a character stands for behind a backslash: most stand for themselves. */
    private static char meant(char c) {
        return switch (c) {
            case 'n' -> '\n';
            case 'r' -> '\r';
            case 't' -> '\t';
            case 'b' -> '\b';
            case 'f' -> '\f';
            case '0' -> '\0';
            case 'Z' -> '\u001A';
            default -> c;
        };
    }
}
