package org.orderlyferry.databases.sqlserver;

import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.dialect.LiteralDefault;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;

/** Reads a default as SQL Server's scripts write it: {@code ((0))}, {@code (N'QM')}, {@code (getdate())}. */
final class SqlServerDefaults {

    /** Those that mean what ISO/IEC 9075-2 has a word for: the server's own time has no zone. */
    private static final Map<String, String> NOW = Map.of(
            "getdate()", "LOCALTIMESTAMP",
            "sysdatetime()", "LOCALTIMESTAMP",
            "current_timestamp", "LOCALTIMESTAMP",
            "sysdatetimeoffset()", "CURRENT_TIMESTAMP");

    private SqlServerDefaults() {}

    static Optional<ColumnDefault> read(String sql, LogicalType type) {
        String bare = bare(sql.strip());
        if (bare.equalsIgnoreCase("NULL")) {
            return Optional.empty();
        }
        String now = NOW.get(bare.toLowerCase(Locale.ROOT).replaceAll("\\s+", ""));
        if (now != null) {
            return Optional.of(new ColumnDefault.Expression(now, SqlText.ISO));
        }
        return LiteralDefault.read(bare, type)
                .or(() -> Optional.of(new ColumnDefault.Expression(bare, SqlServerSql.SYSTEM)));
    }

    /** Without the parentheses that the server puts around whatever it is given. */
    private static String bare(String sql) {
        String text = sql;
        while (text.startsWith("(") && closes(text)) {
            text = text.substring(1, text.length() - 1).strip();
        }
        return text;
    }

    /** Whether the last character closes the parenthesis that the first one opens. */
    private static boolean closes(String text) {
        int depth = 0;
        boolean quoted = false;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            quoted ^= c == '\'';
            depth += quoted ? 0 : c == '(' ? 1 : c == ')' ? -1 : 0;
            if (depth == 0 && !quoted) {
                return i == text.length() - 1;
            }
        }
        return false;
    }
}
