package org.orderlyferry.databases.sql;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A piece of SQL text.
 *
 * @param kind what it is
 * @param text a word as written, a name or string without its quotes, a number's digits, a symbol
 * @param start where it begins in the text
 * @param end where it ends, exclusive
 */
public record SqlToken(Kind kind, String text, int start, int end) {

    /** Kinds of tokens. */
    public enum Kind {
        /** A keyword or a name without quotes. */
        WORD,
        /** A name in quotes. */
        NAME,
        STRING,
        NUMBER,
        SYMBOL
    }

    private static final Pattern ESCAPED = Pattern.compile("\\\\(?:\\+([0-9A-Fa-f]{6})|([0-9A-Fa-f]{4})|\\\\)");

    /** Longer ones first, since a token is the longest that fits. */
    private static final List<String> LONG_SYMBOLS = List.of(
            "!~~*", "!~~", "!~*", "~~*", "<=>", "->>", "<=", ">=", "<>", "!=", "||", "==", "::", "!~", "~~", "~*", "->",
            "@>", "<@", "&&", "<<", ">>");

    /** Whether this is a keyword, in any case. */
    public boolean is(String keyword) {
        return kind == Kind.WORD && text.equalsIgnoreCase(keyword);
    }

    public boolean isSymbol(String symbol) {
        return kind == Kind.SYMBOL && text.equals(symbol);
    }

    /** Whether this can be a name: quoted, or a word. */
    public boolean isName() {
        return kind == Kind.NAME || kind == Kind.WORD;
    }

    String upper() {
        return text.toUpperCase(Locale.ROOT);
    }

    /** Takes text apart; comments and blanks go. Text that ends inside quotes gives what there is. */
    public static List<SqlToken> of(String sql) {
        return of(sql, true);
    }

    /** As {@link #of(String)}, where square brackets are symbols, as behind the name of a type. */
    public static List<SqlToken> bare(String sql) {
        return of(sql, false);
    }

    /** As {@link #of(String)}, where square brackets hold names, or are symbols. */
    static List<SqlToken> of(String sql, boolean bracketNames) {
        List<SqlToken> tokens = new ArrayList<>();
        int i = 0;
        while (i < sql.length()) {
            char c = sql.charAt(i);
            if (Character.isWhitespace(c)) {
                i++;
            } else if (sql.startsWith("--", i)) {
                int end = sql.indexOf('\n', i);
                i = end < 0 ? sql.length() : end;
            } else if (sql.startsWith("/*", i)) {
                int end = sql.indexOf("*/", i + 2);
                i = end < 0 ? sql.length() : end + 2;
            } else {
                SqlToken token =
                        c == '[' && !bracketNames ? new SqlToken(Kind.SYMBOL, "[", i, i + 1) : token(sql, i, c);
                tokens.add(token);
                i = token.end;
            }
        }
        return tokens;
    }

    private static SqlToken token(String sql, int i, char c) {
        switch (c) {
            case '\'' -> {
                return quoted(sql, i, '\'', Kind.STRING);
            }
            case '"', '`' -> {
                return quoted(sql, i, c, Kind.NAME);
            }
            case '[' -> {
                return quoted(sql, i, ']', Kind.NAME);
            }
            default -> {
                // go on below
            }
        }
        boolean national = (c == 'N' || c == 'n') && i + 1 < sql.length() && sql.charAt(i + 1) == '\'';
        if (national) {
            SqlToken bare = quoted(sql, i + 1, '\'', Kind.STRING);
            return new SqlToken(bare.kind, bare.text, i, bare.end);
        }
        boolean unicode = (c == 'U' || c == 'u') && i + 2 < sql.length() && sql.charAt(i + 1) == '&';
        if (unicode && (sql.charAt(i + 2) == '"' || sql.charAt(i + 2) == '\'')) {
            char quote = sql.charAt(i + 2);
            SqlToken bare = quoted(sql, i + 2, quote, quote == '"' ? Kind.NAME : Kind.STRING);
            return new SqlToken(bare.kind, unescaped(bare.text), i, bare.end);
        }
        int end = i;
        if (Character.isDigit(c) || c == '.' && i + 1 < sql.length() && Character.isDigit(sql.charAt(i + 1))) {
            while (end < sql.length() && isNumberPart(sql, i, end)) {
                end++;
            }
            return new SqlToken(Kind.NUMBER, sql.substring(i, end), i, end);
        }
        while (end < sql.length() && isWordPart(sql.charAt(end))) {
            end++;
        }
        if (end > i) {
            return new SqlToken(Kind.WORD, sql.substring(i, end), i, end);
        }
        for (String symbol : LONG_SYMBOLS) {
            if (sql.startsWith(symbol, i)) {
                return new SqlToken(Kind.SYMBOL, symbol, i, i + symbol.length());
            }
        }
        return new SqlToken(Kind.SYMBOL, String.valueOf(c), i, i + 1);
    }

    /** What stands in {@code U&"…"} and {@code U&'…'} of ISO/IEC 9075-2, with the escape character that is so by default. */
    private static String unescaped(String text) {
        return ESCAPED.matcher(text).replaceAll(m -> {
            String digits = m.group(1) == null ? m.group(2) : m.group(1);
            boolean isPoint = digits != null && Character.isValidCodePoint(Integer.parseInt(digits, 16));
            return Matcher.quoteReplacement(
                    isPoint ? Character.toString(Integer.parseInt(digits, 16)) : digits == null ? "\\" : m.group());
        });
    }

    private static boolean isNumberPart(String sql, int start, int at) {
        char c = sql.charAt(at);
        boolean afterExponent = at > start && (sql.charAt(at - 1) == 'e' || sql.charAt(at - 1) == 'E');
        return isWordPart(c) || c == '.' || (c == '+' || c == '-') && afterExponent;
    }

    private static boolean isWordPart(char c) {
        return Character.isLetterOrDigit(c) || c == '_' || c == '$' || Character.isSurrogate(c);
    }

    private static SqlToken quoted(String sql, int start, char close, Kind kind) {
        StringBuilder text = new StringBuilder();
        int i = start + 1;
        while (i < sql.length()) {
            char c = sql.charAt(i++);
            if (c != close) {
                text.append(c);
            } else if (i < sql.length() && sql.charAt(i) == close) {
                text.append(c);
                i++;
            } else {
                break;
            }
        }
        return new SqlToken(kind, text.toString(), start, i);
    }
}
