package org.orderlyferry.databases.mariadb;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.AskedForms;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.place.TextForms;

/**
 * Texts by their sort keys: those are equal under a collation whose keys are. Where blanks at the end don't count, the server
 * compares as if there were as many as needed, so they go.
 */
final class SortKeys {

    /** With keys of one level: by those of several, texts may be equal that have different keys, or blanks at their ends. */
    private static final Pattern ONE_LEVEL = Pattern.compile("[a-z0-9]+_([a-z0-9_]+(?<!_as)_ci|([a-z0-9_]+_)?bin)");

    private SortKeys() {}

    static Optional<TextForms> of(Supplier<Session> asking, String collation) {
        // of MySQL's names, one doesn't say whether blanks count
        if (!ONE_LEVEL.matcher(collation).matches() || collation.contains("_0900_")) {
            return Optional.empty();
        }
        return Optional.of(new AskedForms(asking, (session, texts) -> ask(session, collation, texts)));
    }

    private static List<String> ask(Session session, String collation, List<String> texts) throws SQLException {
        String set = collation.substring(0, collation.indexOf('_'));
        String key = "HEX(WEIGHT_STRING(CONVERT(? USING " + set + ") COLLATE " + collation + "))";
        List<String> keys = new ArrayList<>();
        try (PreparedStatement select =
                session.connection().prepareStatement("SELECT " + key + (", " + key).repeat(texts.size()))) {
            select.setString(1, " ");
            for (int i = 0; i < texts.size(); i++) {
                select.setString(i + 2, texts.get(i));
            }
            try (ResultSet row = select.executeQuery()) {
                row.next();
                String blank = isPadded(collation) ? row.getString(1) : "";
                for (int i = 0; i < texts.size(); i++) {
                    String sortKey = row.getString(i + 2);
                    if (sortKey == null) {
                        throw new SQLException("the server gives no sort key of a text of "
                                + texts.get(i).length() + " characters");
                    }
                    keys.add(withoutBlanks(sortKey, blank));
                }
            }
        }
        return keys;
    }

    private static boolean isPadded(String collation) {
        return !collation.contains("nopad");
    }

    private static String withoutBlanks(String key, String blank) {
        String rest = key;
        while (!blank.isEmpty() && rest.endsWith(blank) && (rest.length() - blank.length()) % blank.length() == 0) {
            rest = rest.substring(0, rest.length() - blank.length());
        }
        return rest;
    }
}
