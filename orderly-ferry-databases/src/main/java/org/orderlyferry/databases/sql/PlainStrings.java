package org.orderlyferry.databases.sql;

import java.util.Optional;
import org.apiguardian.api.API;
import org.jspecify.annotations.Nullable;

/**
 * A statement whose strings are those of ISO/IEC 9075-2, in which nothing but a doubled quote stands for something else:
 * what a backslash means in MariaDB's strings, and in PostgreSQL's {@code E'…'}, is put in its place, and MariaDB's other
 * quotes become those of strings, as PostgreSQL's {@code $tag$ … $tag$} do.
 */
@API(status = API.Status.INTERNAL)
public final class PlainStrings {

    private final String sql;
    /** None where a backslash is one. */
    private final @Nullable BackslashEscape escape;

    private final boolean doubleQuotes;
    private boolean dollars;
    private final StringBuilder plain;
    private int at;

    private PlainStrings(String sql, boolean backslashes, boolean doubleQuotes) {
        this.sql = sql;
        this.escape = backslashes ? BackslashEscape.MARIADB : null;
        this.doubleQuotes = doubleQuotes;
        this.dollars = !backslashes;
        this.plain = new StringBuilder(sql.length());
    }

    /**
     * Rewrites a statement.
     *
     * @param backslashes whether a backslash in any string stands for something else
     */
    public static String of(String sql, boolean backslashes) {
        return sql.indexOf('\\') < 0 && sql.indexOf('$') < 0
                ? sql
                : new PlainStrings(sql, backslashes, false).written();
    }

    /**
     * Rewrites one of MariaDB's in its usual mode, in which a backslash in any string stands for something else, and strings
     * may stand in double quotes, in which names stand elsewhere.
     */
    public static String ofMaria(String sql) {
        return sql.indexOf('\\') < 0 && sql.indexOf('"') < 0 ? sql : new PlainStrings(sql, true, true).written();
    }

    private String written() {
        while (at < sql.length()) {
            char c = sql.charAt(at++);
            if (c == '\'' && isMarked()) {
                plain.setLength(plain.length() - 1);
                quoted(c, c, BackslashEscape.POSTGRESQL);
            } else if (c == '"' && doubleQuotes) {
                quoted(c, '\'', escape);
            } else if (c == '\'' || c == '"') {
                quoted(c, c, escape);
            } else if (c == '`') {
                quoted(c, c, null);
            } else if (c == '$' && dollars && !isInWord()) {
                dollar();
            } else {
                plain.append(c);
            }
        }
        return plain.toString();
    }

    /** Whether what comes is a part of the name in front of it. */
    private boolean isInWord() {
        int last = plain.length() - 1;
        return last >= 0 && (Character.isLetterOrDigit(plain.charAt(last)) || "_$".indexOf(plain.charAt(last)) >= 0);
    }

    /** One without an end says that these are no quotes here; nor is its end looked for again and again. */
    private void dollar() {
        Optional<DollarQuotes> quotes = DollarQuotes.at(sql, at - 1);
        dollars = quotes.isPresent();
        if (quotes.isEmpty()) {
            plain.append('$');
            return;
        }
        plain.append('\'').append(quotes.get().text().replace("'", "''")).append('\'');
        at = quotes.get().end();
    }

    /** Whether the quote stands right behind an {@code E} that is a word of its own. */
    private boolean isMarked() {
        int last = plain.length() - 1;
        return last >= 0
                && Character.toUpperCase(plain.charAt(last)) == 'E'
                && (last == 0 || !Character.isLetterOrDigit(plain.charAt(last - 1)) && plain.charAt(last - 1) != '_');
    }

    /**
     * Takes what stands in quotes.
     *
     * @param become the quotes that it gets
     * @param escapes what a backslash in it means
     */
    private void quoted(char quote, char become, @Nullable BackslashEscape escapes) {
        plain.append(become);
        while (at < sql.length()) {
            char c = sql.charAt(at++);
            if (c == '\\' && escapes != null && at < sql.length()) {
                StringBuilder meant = new StringBuilder();
                at = escapes.take(sql, at, false, meant);
                meant.chars().forEach(m -> inside((char) m, become));
            } else if (c != quote) {
                inside(c, become);
            } else if (at < sql.length() && sql.charAt(at) == quote) {
                inside(quote, become);
                at++;
            } else {
                plain.append(become);
                return;
            }
        }
    }

    private void inside(char c, char quote) {
        plain.append(c);
        if (c == quote) {
            plain.append(c);
        }
    }
}
