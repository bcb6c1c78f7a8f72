package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.sql.SqlToken;

/**
 * A comment as SQL Server has it: an extended property of the name that its own tools show.
 *
 * @param column empty for a comment on the table
 */
record CommentProperty(String schema, String table, String column, String text) {

    private static final String NAME = "MS_DESCRIPTION";
    private static final List<String> PARAMETERS = List.of(
            "NAME", "VALUE", "LEVEL0TYPE", "LEVEL0NAME", "LEVEL1TYPE", "LEVEL1NAME", "LEVEL2TYPE", "LEVEL2NAME");

    /** What a call of the procedure says; nothing where it is another one, or another property. */
    static Optional<CommentProperty> of(String sql) {
        List<SqlToken> tokens = SqlToken.of(sql);
        int at = 0;
        while (at < tokens.size() && !tokens.get(at).text().equalsIgnoreCase("sp_addextendedproperty")) {
            // only names and points stand before it
            if (!tokens.get(at).isName() && !tokens.get(at).isSymbol(".")) {
                return Optional.empty();
            }
            at++;
        }
        if (at == tokens.size()) {
            return Optional.empty();
        }
        Map<String, String> values = values(tokens.subList(at + 1, tokens.size()));
        boolean table = values.getOrDefault("LEVEL1TYPE", "").equalsIgnoreCase("TABLE");
        String level = values.getOrDefault("LEVEL2TYPE", "");
        if (!table
                || !values.getOrDefault("NAME", "").equalsIgnoreCase(NAME)
                || !level.isEmpty() && !level.equalsIgnoreCase("COLUMN")) {
            return Optional.empty();
        }
        return Optional.of(new CommentProperty(
                values.getOrDefault("LEVEL0NAME", ""),
                values.getOrDefault("LEVEL1NAME", ""),
                values.getOrDefault("LEVEL2NAME", ""),
                values.getOrDefault("VALUE", "")));
    }

    /** Arguments by their names, or by where they stand; what is no text counts as an empty one. */
    private static Map<String, String> values(List<SqlToken> tokens) {
        Map<String, String> values = new HashMap<>();
        List<SqlToken> one = new ArrayList<>();
        int place = 0;
        for (int i = 0; i <= tokens.size(); i++) {
            if (i < tokens.size() && !tokens.get(i).isSymbol(",")) {
                one.add(tokens.get(i));
                continue;
            }
            boolean named =
                    one.size() > 2 && one.get(0).isSymbol("@") && one.get(2).isSymbol("=");
            String name = named
                    ? one.get(1).text().toUpperCase(Locale.ROOT)
                    : place < PARAMETERS.size() ? PARAMETERS.get(place) : "";
            SqlToken value = one.isEmpty() ? null : one.get(one.size() - 1);
            boolean text =
                    value != null && (value.kind() == SqlToken.Kind.STRING || value.kind() == SqlToken.Kind.NAME);
            values.put(name, text ? value.text() : "");
            place++;
            one.clear();
        }
        return values;
    }
}
