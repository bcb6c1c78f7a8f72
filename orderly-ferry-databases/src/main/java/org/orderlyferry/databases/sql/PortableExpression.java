package org.orderlyferry.databases.sql;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;

/**
 * Carries a check's expression from one system's SQL to another's, where it is made only of what both know: the table's
 * columns, literals, comparisons, logic, arithmetic and a few functions that mean the same everywhere. Anything else is
 * not guessed at.
 */
public final class PortableExpression {

    private static final Set<String> KEYWORDS =
            Set.of("AND", "OR", "NOT", "IS", "NULL", "BETWEEN", "IN", "LIKE", "CASE", "WHEN", "THEN", "ELSE", "END");
    private static final Set<String> FUNCTIONS = Set.of("LOWER", "UPPER", "ABS", "COALESCE", "NULLIF");
    private static final Set<String> LENGTHS = Set.of("LENGTH", "CHAR_LENGTH", "CHARACTER_LENGTH");
    private static final Set<String> LITERAL_TYPES = Set.of("DATE", "TIME", "TIMESTAMP");
    private static final Set<String> SYMBOLS =
            Set.of("(", ")", ",", "=", "<>", "!=", "<", "<=", ">", ">=", "+", "-", "*", "/", "||");

    private static final Pattern ANY = Pattern.compile("= ANY \\(\\(?ARRAY\\[([^\\]]*)\\]\\)?(?:::[a-z ]+\\[\\])?\\)");
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
     * The expression in the target's SQL, or nothing where it can't be carried.
     *
     * @param columns the table's columns
     * @param fold how the source's system reads a name without quotes, for example to upper case
     */
    public static Optional<String> carry(String sql, List<String> columns, UnaryOperator<String> fold, Target target) {
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
                piece = piece(token, next, columns, fold, target);
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

    /** Undoes how PostgreSQL writes a list of values and the types of literals, where no text could be hit by that. */
    private static String plain(String sql) {
        boolean texts = SqlToken.of(sql).stream()
                .anyMatch(t -> t.kind() == SqlToken.Kind.STRING && t.text().matches(".*(::|ANY|\\[|\\]).*"));
        if (texts || !sql.contains("::")) {
            return sql;
        }
        return CAST.matcher(ANY.matcher(sql).replaceAll("IN ($1)")).replaceAll("");
    }

    private static boolean isString(SqlToken token) {
        return token != null && token.kind() == SqlToken.Kind.STRING;
    }

    private static String piece(
            SqlToken token, SqlToken next, List<String> columns, UnaryOperator<String> fold, Target target) {
        return switch (token.kind()) {
            case STRING -> string(token.text());
            case NUMBER -> token.text().matches("[0-9.]+([eE][+-]?[0-9]+)?") ? token.text() : null;
            case SYMBOL -> SYMBOLS.contains(token.text()) ? token.text().replace("!=", "<>") : null;
            case NAME -> columns.contains(token.text()) ? target.quote(token.text()) : null;
            case WORD -> word(token, next, columns, fold, target);
        };
    }

    private static String word(
            SqlToken token, SqlToken next, List<String> columns, UnaryOperator<String> fold, Target target) {
        String upper = token.upper();
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
        String folded = fold.apply(token.text());
        return columns.contains(folded) ? target.quote(folded) : null;
    }

    private static String string(String text) {
        return "'" + text.replace("'", "''") + "'";
    }
}
