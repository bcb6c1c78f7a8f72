package org.orderlyferry.databases.sqlite;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.SqlText;

/**
 * What only the text of a CREATE INDEX statement tells: the expressions of its parts, and of which rows it holds.
 *
 * @param tail all that stands behind the table's name
 * @param parts the text of each part
 */
record CreateIndexText(String tail, List<String> parts, Optional<SqlText> predicate) {

    static CreateIndexText of(String sql) {
        List<SqlToken> tokens = SqlToken.of(sql);
        int open = 0;
        while (open < tokens.size() && !tokens.get(open).isSymbol("(")) {
            open++;
        }
        if (open == tokens.size()) {
            return new CreateIndexText("", List.of(), Optional.empty());
        }
        List<String> parts = new ArrayList<>();
        int depth = 0;
        int start = tokens.get(open).end();
        int i = open;
        for (; i < tokens.size(); i++) {
            SqlToken token = tokens.get(i);
            if (token.isSymbol("(")) {
                depth++;
            } else if (token.isSymbol(")") && --depth == 0 || token.isSymbol(",") && depth == 1) {
                parts.add(sql.substring(start, token.start()).strip());
                start = token.end();
                if (depth == 0) {
                    break;
                }
            }
        }
        Optional<SqlText> predicate = i + 1 < tokens.size() && tokens.get(i + 1).is("WHERE")
                ? Optional.of(new SqlText(sql.substring(tokens.get(i + 1).end()).strip(), SqliteDialect.SYSTEM))
                : Optional.empty();
        return new CreateIndexText(sql.substring(tokens.get(open).start()).strip(), parts, predicate);
    }

    /** The expression of a part, without the direction behind it. */
    SqlText expression(int part) {
        return new SqlText(parts.get(part).replaceFirst("(?i)\\s+(ASC|DESC)$", ""), SqliteDialect.SYSTEM);
    }
}
