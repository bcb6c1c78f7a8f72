package org.orderlyferry.databases.oracle;

import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.dialect.LiteralDefault;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;

/** Reads a default as Oracle's scripts write it: a literal, or the time of asking. */
final class OracleDefaults {

    private static final Map<String, String> NOW = Map.of(
            "SYSDATE", "LOCALTIMESTAMP",
            "LOCALTIMESTAMP", "LOCALTIMESTAMP",
            "CURRENT_DATE", "LOCALTIMESTAMP",
            "SYSTIMESTAMP", "CURRENT_TIMESTAMP",
            "CURRENT_TIMESTAMP", "CURRENT_TIMESTAMP");

    private OracleDefaults() {}

    static Optional<ColumnDefault> read(String sql, LogicalType type) {
        String bare = sql.strip();
        // an empty text is a null there
        if (bare.equalsIgnoreCase("NULL") || bare.equals("''")) {
            return Optional.empty();
        }
        String now = NOW.get(bare.toUpperCase(Locale.ROOT));
        if (now != null) {
            return Optional.of(new ColumnDefault.Expression(now, SqlText.ISO));
        }
        return LiteralDefault.read(bare, type)
                .or(() -> Optional.of(new ColumnDefault.Expression(bare, OracleSql.SYSTEM)));
    }
}
