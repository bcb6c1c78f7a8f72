package org.orderlyferry.databases.sql;

import org.apiguardian.api.API;

/**
 * A statement whose strings are those of ISO/IEC 9075-2, in which nothing but a doubled quote stands for something else:
 * what a backslash means in MariaDB's strings, and in PostgreSQL's {@code E'…'}, is put in its place.
 */
@API(status = API.Status.INTERNAL)
public final class PlainStrings {

    private final String sql;
    private final boolean backslashes;
    private final StringBuilder plain;
    private int at;

    private PlainStrings(String sql, boolean backslashes) {
        this.sql = sql;
        this.backslashes = backslashes;
        this.plain = new StringBuilder(sql.length());
    }

    /**
     * Rewrites a statement.
     *
     * @param backslashes whether a backslash in any string stands for something else
     */
    public static String of(String sql, boolean backslashes) {
        return sql.indexOf('\\') < 0 ? sql : new PlainStrings(sql, backslashes).written();
    }

    private String written() {
        while (at < sql.length()) {
            char c = sql.charAt(at++);
            if (c == '\'' && isMarked()) {
                plain.setLength(plain.length() - 1);
                quoted(c, true);
            } else if (c == '\'' || c == '"') {
                quoted(c, backslashes);
            } else if (c == '`') {
                quoted(c, false);
            } else {
                plain.append(c);
            }
        }
        return plain.toString();
    }

    /** Whether the quote stands right behind an {@code E} that is a word of its own. */
    private boolean isMarked() {
        int last = plain.length() - 1;
        return last >= 0
                && Character.toUpperCase(plain.charAt(last)) == 'E'
                && (last == 0 || !Character.isLetterOrDigit(plain.charAt(last - 1)) && plain.charAt(last - 1) != '_');
    }

    private void quoted(char quote, boolean escapes) {
        plain.append(quote);
        while (at < sql.length()) {
            char c = sql.charAt(at++);
            if (c == '\\' && escapes && at < sql.length()) {
                char meant = meant(sql.charAt(at++));
                plain.append(meant);
                if (meant == quote) {
                    plain.append(quote);
                }
                continue;
            }
            plain.append(c);
            if (c == quote) {
                if (at >= sql.length() || sql.charAt(at) != quote) {
                    return;
                }
                plain.append(quote);
                at++;
            }
        }
    }

    /** What a character stands for behind a backslash: most stand for themselves. */
    public static char meant(char c) {
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
