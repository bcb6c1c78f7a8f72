package org.orderlyferry.databases.sql;

import java.util.Set;

/** Reads what stands in an expression as a value, and the time of asking. */
final class Constants {

    private static final Set<String> NOWS =
            Set.of("CURRENT_DATE", "CURRENT_TIME", "CURRENT_TIMESTAMP", "LOCALTIME", "LOCALTIMESTAMP");

    private Constants() {}

    /** Whether a word, in capitals, is a time of asking. */
    static boolean isNow(String word) {
        return NOWS.contains(word);
    }

    static Expression number(String text) throws NotParsedException {
        if (!text.matches("([0-9]+(\\.[0-9]*)?|\\.[0-9]+)([eE][+-]?[0-9]{1,3})?")) {
            throw new NotParsedException(text);
        }
        return new Expression.Number(text);
    }

    /** A word with a string behind it. */
    static Expression prefixed(String word, TokenCursor in) throws NotParsedException {
        String text = in.next().text();
        switch (word) {
            case "DATE", "TIME", "TIMESTAMP" -> {
                return new Expression.Dated(word, text);
            }
            case "X" -> {
                if (text.matches("(?:[0-9a-fA-F]{2})*+")) {
                    return new Expression.Bytes(text);
                }
            }
            case "N", "_UTF8MB4", "_UTF8MB3", "_UTF8", "_LATIN1" -> {
                if (word.equals("N") || text.chars().allMatch(c -> c < 128)) {
                    return new Expression.Text(text);
                }
            }
            default -> {
                // E'…', B'…', U&'…': what stands in them is written otherwise
            }
        }
        throw new NotParsedException(word);
    }

    static Expression now(String function, TokenCursor in) throws NotParsedException {
        int fraction = -1;
        if (in.skip("(") && !in.skip(")")) {
            String digits = in.next().text();
            if (!digits.matches("[0-9]")) {
                throw new NotParsedException(digits);
            }
            fraction = Integer.parseInt(digits);
            in.need(")");
        }
        return new Expression.Now(function, fraction);
    }
}
