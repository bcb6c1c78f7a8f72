package org.orderlyferry.testkit.standin;

import java.util.regex.Pattern;

/** Oracle's words that H2 hasn't even in its mode. */
final class OracleWords implements Translation {

    private static final Pattern COUNTER =
            Pattern.compile("(?s)(ALTER TABLE .*) MODIFY (\"[^\"]*\") GENERATED (ALWAYS|BY DEFAULT)"
                    + " AS IDENTITY \\(START WITH (-?\\d+) INCREMENT BY (-?\\d+)\\)");

    @Override
    public String of(String sql) {
        return COUNTER.matcher(sql)
                .replaceAll("$1 ALTER COLUMN $2 SET GENERATED $3 SET INCREMENT BY $5 RESTART WITH $4")
                .replaceAll("\\) VIRTUAL(?=,?\\n)", ")")
                .replaceAll(" DEFERRABLE( INITIALLY DEFERRED)?", "")
                .replace("SYSTIMESTAMP", "CURRENT_TIMESTAMP")
                .replaceAll("(?<=\\d)[df](?=[,)\\n ])", "");
    }
}
