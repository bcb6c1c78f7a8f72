package org.orderlyferry.testkit.standin;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** SQL Server's words: procedures that rename and comment, counters that are given values only where that was said. */
final class SqlServerWords implements Translation {

    private static final String NAME = "\\[((?:[^\\]]++|\\]\\])*+)\\]";
    private static final String TEXT = "N'((?:[^']++|'')*+)'";
    private static final String TABLE = "((?:" + NAME + "\\.)?" + NAME + ")";
    private static final String NOTHING = "SET @stand_in = 1";

    private static final Pattern RENAME = Pattern.compile("EXEC sp_rename " + TEXT + ", " + TEXT);
    private static final Pattern COMMENT =
            Pattern.compile("EXEC sys\\.sp_addextendedproperty @name = N'MS_Description',"
                    + " @value = " + TEXT + ", @level0type = N'SCHEMA', @level0name = " + TEXT
                    + ", @level1type = N'TABLE', @level1name = " + TEXT + "(?:, @level2type = N'COLUMN', @level2name = "
                    + TEXT
                    + ")?");
    private static final Pattern GIVEN = Pattern.compile("SET IDENTITY_INSERT " + TABLE + " (ON|OFF)");
    private static final Pattern RESEED = Pattern.compile("IF EXISTS \\(SELECT \\* FROM " + TABLE
            + "\\) DBCC CHECKIDENT \\(" + TEXT + ", RESEED, (-?\\d+)\\) ELSE DBCC CHECKIDENT \\(" + TEXT
            + ", RESEED, (-?\\d+)\\)");
    private static final Pattern INSERT = Pattern.compile("(?s)INSERT INTO " + TABLE + " \\(([^)]*)\\).*");
    private static final Pattern FILTERED = Pattern.compile("(?s)CREATE UNIQUE INDEX (.*\\)) WHERE .*");
    private static final Pattern COMPUTED = Pattern.compile("(?m)^(  " + NAME + ") AS (\\(.*\\)) PERSISTED(,?)$");

    private final Connection connection;
    private String given = "";

    SqlServerWords(Connection connection) {
        this.connection = connection;
    }

    /** H2 takes names in brackets, but none that hold one. */
    @Override
    public String of(String sql) throws SQLException {
        return unbracketed(worded(sql));
    }

    private static String unbracketed(String sql) {
        StringBuilder text = new StringBuilder();
        boolean string = false;
        for (int i = 0; i < sql.length(); i++) {
            char c = sql.charAt(i);
            string ^= c == '\'';
            if (string || c != '[') {
                text.append(c);
                continue;
            }
            text.append('"');
            while (++i < sql.length() && (sql.charAt(i) != ']' || sql.startsWith("]]", i))) {
                text.append(sql.charAt(i) == '"' ? "\"\"" : String.valueOf(sql.charAt(i)));
                i += sql.charAt(i) == ']' ? 1 : 0;
            }
            text.append('"');
        }
        return text.toString();
    }

    private String worded(String sql) throws SQLException {
        Matcher rename = RENAME.matcher(sql);
        if (rename.matches()) {
            return "ALTER TABLE " + text(rename.group(1)) + " RENAME TO ["
                    + text(rename.group(2)).replace("]", "]]") + "]";
        }
        Matcher comment = COMMENT.matcher(sql);
        if (comment.matches()) {
            boolean column = comment.group(4) != null;
            return "COMMENT ON " + (column ? "COLUMN " : "TABLE ") + quoted(comment.group(2)) + "."
                    + quoted(comment.group(3)) + (column ? "." + quoted(comment.group(4)) : "") + " IS '"
                    + comment.group(1) + "'";
        }
        Matcher told = GIVEN.matcher(sql);
        if (told.matches()) {
            return given(told.group(1), told.group(4).equals("ON"));
        }
        Matcher reseed = RESEED.matcher(sql);
        if (reseed.matches()) {
            return "ALTER TABLE " + reseed.group(1) + " ALTER COLUMN " + counter(reseed.group(1)) + " RESTART WITH "
                    + reseed.group(7);
        }
        Matcher insert = INSERT.matcher(sql);
        if (insert.matches() && !given.equals(insert.group(1))) {
            String counter = counter(insert.group(1));
            if (!counter.isEmpty() && insert.group(4).contains(counter)) {
                throw new SQLException(
                        "Cannot insert explicit value for identity column in table '" + insert.group(3)
                                + "' when IDENTITY_INSERT is set to OFF.",
                        "S0001",
                        544);
            }
        }
        return FILTERED.matcher(COMPUTED.matcher(sql).replaceAll("$1 int GENERATED ALWAYS AS $3$4"))
                .replaceAll("CREATE UNIQUE NULLS DISTINCT INDEX $1")
                .replaceAll(" COLLATE Latin1_General_100_BIN2", "")
                .replace("COUNT_BIG(", "COUNT(")
                .replaceAll("sysdatetime(offset)?\\(\\)", "CURRENT_TIMESTAMP")
                .replaceAll("(?<=\\] )datetimeoffset\\((\\d)\\)", "TIMESTAMP($1) WITH TIME ZONE")
                .replaceAll("(?i) AS datetimeoffset\\((\\d)\\)", " AS TIMESTAMP($1) WITH TIME ZONE");
    }

    /** It holds for one table at a time. */
    private String given(String table, boolean on) throws SQLException {
        if (on && !given.isEmpty() && !given.equals(table)) {
            throw new SQLException("IDENTITY_INSERT is already ON for table '" + given + "'.", "S0001", 8107);
        }
        if (on && counter(table).isEmpty()) {
            throw new SQLException("Table '" + table + "' does not have the identity property.", "S0001", 8106);
        }
        given = on ? table : "";
        return NOTHING;
    }

    private static String text(String quoted) {
        return quoted.replace("''", "'");
    }

    private static String quoted(String text) {
        return "[" + text(text).replace("]", "]]") + "]";
    }

    /** The column that counts, in brackets; empty where a table has none. */
    private String counter(String table) throws SQLException {
        Matcher names = Pattern.compile(TABLE).matcher(table);
        names.matches();
        try (PreparedStatement columns = connection.prepareStatement(
                "SELECT COLUMN_NAME FROM INFORMATION_SCHEMA.COLUMNS WHERE TABLE_SCHEMA = ? AND TABLE_NAME = ? AND"
                        + " IS_IDENTITY = 'YES'")) {
            columns.setString(
                    1,
                    names.group(2) == null
                            ? connection.getSchema()
                            : names.group(2).replace("]]", "]"));
            columns.setString(2, names.group(3).replace("]]", "]"));
            try (ResultSet row = columns.executeQuery()) {
                return row.next() ? "[" + row.getString(1).replace("]", "]]") + "]" : "";
            }
        }
    }
}
