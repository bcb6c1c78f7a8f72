package org.orderlyferry.databases.sql;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;

/**
 * Carries a check's expression from one system's SQL to another's, where it is made only of what both know: the table's
 * columns, literals, comparisons, logic, arithmetic and a few functions that mean the same everywhere. Anything else is
 * not guessed at.
 */
public final class PortableExpression {

    private static final Set<String> KEYWORDS =
            Set.of("AND", "OR", "NOT", "IS", "NULL", "BETWEEN", "IN", "CASE", "WHEN", "THEN", "ELSE", "END");
    private static final Set<String> FUNCTIONS = Set.of("ABS", "COALESCE", "NULLIF");
    /** What goes by the case of letters, of which systems have different ideas. */
    private static final Set<String> LETTERS = Set.of("LIKE", "LOWER", "UPPER");

    private static final Set<String> LENGTHS = Set.of("LENGTH", "CHAR_LENGTH", "CHARACTER_LENGTH");
    private static final Set<String> LITERAL_TYPES = Set.of("DATE", "TIME", "TIMESTAMP");
    private static final Set<String> SYMBOLS =
            Set.of("(", ")", ",", "=", "<>", "!=", "<", "<=", ">", ">=", "+", "-", "*");

    private static final Pattern ANY = Pattern.compile("= ANY \\(\\(?ARRAY\\[([^\\]]*)\\]\\)?(?:::[a-z ]+\\[\\])?\\)");
    private static final Pattern NUMBER = Pattern.compile(
            "'(-?[0-9]+(?:\\.[0-9]+)?)'::(?:smallint|integer|bigint|numeric|real|double precision)(?:\\([0-9,]+\\))?");
    private static final Pattern CAST_NUMBER =
            Pattern.compile("CAST\\((-?[0-9]+(?:\\.[0-9]+)?) AS [A-Z ]+(?:\\([0-9, ]+\\))?\\)");
    private static final Pattern CAST =
            Pattern.compile("::[a-z]+(?: varying| precision| with(?:out)? time zone)?(?:\\([0-9,]+\\))?");

    /** What differs in the system that an expression is carried to. */
    public interface Target {
        /** A name in the system's quotes. */
        String quote(String name);

        /** The function that counts a text's characters. */
        String lengthFunction();

        /** A literal of a type, such as {@code DATE '2031-04-09'}. */
        String typedLiteral(String type, String quoted);
    }

    private PortableExpression() {}

    /**
     * The expression in the target's SQL, or nothing where it can't be carried. Division and {@code ||} never are: 7 / 2
     * is 3 in one system and 3.5 in another, and {@code ||} joins texts in one and truth values in another.
     *
     * @param columns the name that a column has in the target; nothing where it has none, or can't be computed with
     * @param fold how the source's system reads a name without quotes, for example to upper case
     * @param letters whether both systems agree on LIKE, LOWER and UPPER
     */
    public static Optional<String> carry(
            String sql,
            Function<String, Optional<String>> columns,
            UnaryOperator<String> fold,
            boolean letters,
            Target target) {
        List<SqlToken> tokens = SqlToken.of(plain(sql));
        StringBuilder carried = new StringBuilder();
        for (int i = 0; i < tokens.size(); i++) {
            SqlToken token = tokens.get(i);
            SqlToken next = i + 1 < tokens.size() ? tokens.get(i + 1) : null;
            String piece = null;
            if (token.kind() == SqlToken.Kind.WORD && LITERAL_TYPES.contains(token.upper()) && isString(next)) {
                piece = target.typedLiteral(token.upper(), string(next.text()));
                i++;
            } else {
                piece = piece(token, next, columns, fold, letters, target);
            }
            if (piece == null) {
                return Optional.empty();
            }
            boolean tight = carried.length() == 0
                    || piece.equals(")")
                    || piece.equals(",")
                    || carried.charAt(carried.length() - 1) == '(';
            carried.append(tight ? "" : " ").append(piece);
        }
        return Optional.of(carried.toString());
    }

    /** Undoes how PostgreSQL and H2 write lists of values and the types of literals, where no text is hit by that. */
    private static String plain(String written) {
        boolean texts = SqlToken.of(written).stream()
                .anyMatch(t -> t.kind() == SqlToken.Kind.STRING && t.text().matches("(?s).*(::|ANY|CAST|\\[|\\]).*"));
        if (texts) {
            return written;
        }
        String sql = CAST_NUMBER.matcher(written).replaceAll("$1");
        if (!sql.contains("::")) {
            return sql;
        }
        return CAST.matcher(ANY.matcher(NUMBER.matcher(sql).replaceAll("$1")).replaceAll("IN ($1)"))
                .replaceAll("");
    }

    private static boolean isString(SqlToken token) {
        return token != null && token.kind() == SqlToken.Kind.STRING;
    }

    private static String piece(
            SqlToken token,
            SqlToken next,
            Function<String, Optional<String>> columns,
            UnaryOperator<String> fold,
            boolean letters,
            Target target) {
        return switch (token.kind()) {
            case STRING -> string(token.text());
            case NUMBER -> token.text().matches("[0-9.]+([eE][+-]?[0-9]+)?") ? token.text() : null;
            case SYMBOL -> SYMBOLS.contains(token.text()) ? token.text().replace("!=", "<>") : null;
            case NAME -> columns.apply(token.text()).map(target::quote).orElse(null);
            case WORD -> word(token, next, columns, fold, letters, target);
        };
    }

    private static String word(
            SqlToken token,
            SqlToken next,
            Function<String, Optional<String>> columns,
            UnaryOperator<String> fold,
            boolean letters,
            Target target) {
        String upper = token.upper();
        if (LETTERS.contains(upper)) {
            return letters ? upper : null;
        }
        if (next != null && next.isSymbol("(")) {
            if (FUNCTIONS.contains(upper)) {
                return upper;
            }
            if (LENGTHS.contains(upper)) {
                return target.lengthFunction();
            }
        }
        if (KEYWORDS.contains(upper) || upper.equals("TRUE") || upper.equals("FALSE")) {
            return upper;
        }
        return columns.apply(fold.apply(token.text())).map(target::quote).orElse(null);
    }

    private static String string(String text) {
        return "'" + text.replace("'", "''") + "'";
    }
}
