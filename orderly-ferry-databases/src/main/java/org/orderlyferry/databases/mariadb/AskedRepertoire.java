package org.orderlyferry.databases.mariadb;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.BitSet;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.Repertoire;
import org.orderlyferry.databases.dialect.Session;

/**
 * The characters of one of MariaDB's character sets, by what the server makes of each: some of its sets have others than
 * those of the same name elsewhere.
 */
final class AskedRepertoire {

    /** All of Unicode, and bytes that are no characters. */
    private static final Set<String> UNBOUNDED = Set.of("utf8mb4", "utf16", "utf16le", "utf32", "binary");

    private static final Set<String> FIRST_PLANE = Set.of("utf8", "utf8mb3", "ucs2");

    /** A collation begins with the name of its character set. */
    private static final Pattern COLLATION = Pattern.compile("([a-z0-9]+)(_[a-z0-9_]*)?");

    /** So many characters are asked for at once. */
    private static final int AT_ONCE = 4096;

    private static final int LAST = 0xFFFF;

    private AskedRepertoire() {}

    /** A collation's character set; nothing where it is all of Unicode, or no set of characters. */
    static Optional<String> set(String collation) {
        Matcher matcher = COLLATION.matcher(collation);
        return matcher.matches() && !UNBOUNDED.contains(matcher.group(1))
                ? Optional.of(matcher.group(1))
                : Optional.empty();
    }

    /** The characters of such a set. */
    static Repertoire of(Session session, String set) throws SQLException {
        return FIRST_PLANE.contains(set) ? Repertoire.ofFirstPlane(set) : new Repertoire(set, asked(session, set));
    }

    private static BitSet asked(Session session, String set) throws SQLException {
        BitSet characters = new BitSet();
        try (PreparedStatement there = session.connection()
                .prepareStatement("SELECT CONVERT(CONVERT(CAST(? AS CHAR CHARACTER SET utf8mb4) USING " + set
                        + ") USING utf8mb4)")) {
            for (int from = 1; from <= LAST; from += AT_ONCE) {
                ask(there, from, Math.min(LAST, from + AT_ONCE - 1), characters);
            }
        }
        return characters;
    }

    private static void ask(PreparedStatement there, int from, int to, BitSet characters) throws SQLException {
        StringBuilder text = new StringBuilder();
        for (int c = from; c <= to; c++) {
            if (!Character.isSurrogate((char) c)) {
                text.append((char) c);
            }
        }
        if (text.isEmpty()) {
            return;
        }
        there.setString(1, text.toString());
        try (ResultSet row = there.executeQuery()) {
            row.next();
            String back = row.getString(1);
            if (back.length() != text.length()) {
                throw new SQLException("the server makes " + back.length() + " characters of " + text.length());
            }
            for (int i = 0; i < text.length(); i++) {
                characters.set(text.charAt(i), back.charAt(i) == text.charAt(i));
            }
        }
    }
}
