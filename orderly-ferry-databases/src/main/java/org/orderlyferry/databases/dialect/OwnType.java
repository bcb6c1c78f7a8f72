package org.orderlyferry.databases.dialect;

import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.databases.sql.SqlToken;

/**
 * A type as a system's catalogue writes it, taken apart: words, numbers or values in parentheses, array marks.
 *
 * @param words all words, with single blanks, in lower case
 * @param text the whole, written anew
 */
record OwnType(String words, String text) {

    /** Reads a type; nothing where it holds more than a type does. */
    static Optional<OwnType> read(String written) {
        List<SqlToken> tokens = SqlToken.bare(written);
        StringBuilder words = new StringBuilder();
        StringBuilder text = new StringBuilder();
        boolean inside = false;
        for (SqlToken token : tokens) {
            boolean word = token.kind() == SqlToken.Kind.WORD || token.kind() == SqlToken.Kind.NAME;
            if (!inside && word) {
                String name = token.kind() == SqlToken.Kind.NAME
                        ? '"' + token.text().replace("\"", "\"\"") + '"'
                        : token.text();
                words.append(words.isEmpty() ? "" : " ").append(name.toLowerCase(Locale.ROOT));
                text.append(text.isEmpty() ? "" : " ").append(name);
            } else if (!inside && token.isSymbol("(") && !text.isEmpty()) {
                inside = true;
                text.append('(');
            } else if (inside && token.isSymbol(")")) {
                inside = false;
                text.append(')');
            } else if (inside && (token.isSymbol(",") || token.isSymbol("-") || token.isSymbol("*") || isUnit(token))) {
                text.append(token.kind() == SqlToken.Kind.WORD && !token.is("max") ? " " : "")
                        .append(token.text());
            } else if (inside && token.kind() == SqlToken.Kind.STRING) {
                text.append(DefinitionSql.string(token.text()));
            } else if (inside
                    && token.kind() == SqlToken.Kind.NUMBER
                    && token.text().matches("\\d{1,10}")) {
                text.append(token.text());
            } else if (!inside && (token.isSymbol("[") || token.isSymbol("]")) && !text.isEmpty()) {
                text.append(token.text());
            } else {
                return Optional.empty();
            }
        }
        return inside || text.isEmpty()
                ? Optional.empty()
                : Optional.of(new OwnType(words.toString(), text.toString()));
    }

    /** A length without end, or what a length counts. */
    private static boolean isUnit(SqlToken token) {
        return token.is("max") || token.is("CHAR") || token.is("BYTE");
    }

    /** A written type anew, if its words are those of one that is known. */
    static Optional<String> held(String written, Collection<String> known) {
        return read(written)
                .filter(type -> known.stream()
                        .map(OwnType::read)
                        .flatMap(Optional::stream)
                        .map(OwnType::words)
                        .collect(Collectors.toSet())
                        .contains(type.words()))
                .map(OwnType::text);
    }
}
