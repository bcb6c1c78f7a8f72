package org.orderlyferry.databases.script;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.sql.PlainStrings;
import org.orderlyferry.databases.sql.SqlToken;

/**
 * How records stand in the lines behind PostgreSQL's COPY in text format.
 *
 * @param delimiter what stands between values
 * @param nullText what stands for null, before a backslash in it means anything
 */
record CopyText(char delimiter, String nullText) {

    static final CopyText USUAL = new CopyText('\t', "\\N");

    /**
     * What the words behind FROM STDIN say, in either way of writing them.
     *
     * @return empty where they say anything else
     */
    static Optional<CopyText> of(String options) {
        List<SqlToken> tokens = SqlToken.of(PlainStrings.of(options, false));
        CopyText text = USUAL;
        for (int i = 0; i < tokens.size(); i++) {
            SqlToken token = tokens.get(i);
            if (token.is("WITH")
                    || token.is("AS")
                    || token.isSymbol("(")
                    || token.isSymbol(")")
                    || token.isSymbol(",")) {
                continue;
            }
            int at = i + 1 < tokens.size() && tokens.get(i + 1).is("AS") ? i + 2 : i + 1;
            if (at >= tokens.size()) {
                return Optional.empty();
            }
            SqlToken value = tokens.get(at);
            boolean string = value.kind() == SqlToken.Kind.STRING;
            if ((token.is("DELIMITER") || token.is("DELIMITERS"))
                    && string
                    && value.text().length() == 1
                    && value.text().charAt(0) != '\\') {
                text = new CopyText(value.text().charAt(0), text.nullText);
            } else if (token.is("NULL") && string) {
                text = new CopyText(text.delimiter, value.text());
            } else if (!(token.is("FORMAT") && value.text().equalsIgnoreCase("text"))) {
                return Optional.empty();
            }
            i = at;
        }
        return Optional.of(text);
    }
}
