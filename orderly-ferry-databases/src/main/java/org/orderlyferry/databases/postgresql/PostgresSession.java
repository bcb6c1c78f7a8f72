package org.orderlyferry.databases.postgresql;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.DefinitionSql;

/**
 * What every session of ours is set to, since the server, the database, the role and the address may each have set it
 * otherwise, and a value's text, a type's name, a rule or the time that a statement may take hangs on it.
 */
final class PostgresSession {

    private static final Map<String, String> SETTINGS = settings();

    private PostgresSession() {}

    private static Map<String, String> settings() {
        Map<String, String> all = new LinkedHashMap<>();
        // how values are written, and read
        all.put("TimeZone", "UTC");
        all.put("DateStyle", "ISO, YMD");
        all.put("IntervalStyle", "iso_8601");
        all.put("extra_float_digits", "1");
        all.put("bytea_output", "hex");
        all.put("xmloption", "content");
        all.put("array_nulls", "on");
        // how SQL is: with it, types have names like "bytea", and a backslash in a literal means something else
        all.put("quote_all_identifiers", "off");
        all.put("standard_conforming_strings", "on");
        all.put("transform_null_equals", "off");
        // a policy would hide records in silence; so it is an error where one would
        all.put("row_security", "off");
        // what is meant for those who forget a query ends a session that keeps a snapshot, or makes an index
        all.put("transaction_timeout", "0");
        all.put("idle_in_transaction_session_timeout", "0");
        all.put("idle_session_timeout", "0");
        return all;
    }

    /** Sets what the server knows: older ones don't know all. */
    static void settle(Connection connection, boolean write) throws SQLException {
        String wanted = SETTINGS.entrySet().stream()
                .map(e -> "(" + DefinitionSql.string(e.getKey()) + ", " + DefinitionSql.string(e.getValue()) + ")")
                .collect(Collectors.joining(", "));
        try (Statement statement = connection.createStatement()) {
            // first, since the rest would be a statement that it ends
            statement.execute("SET statement_timeout = 0");
            ShadowedBuiltIns.refuse(connection);
            statement.execute("SELECT set_config(name, value, false) FROM (VALUES " + wanted
                    + ") AS wanted (name, value) WHERE current_setting(name, true) <> value");
            if (write) {
                // lanes would be refused as soon as two of them have looked at the same
                statement.execute("SET SESSION CHARACTERISTICS AS TRANSACTION ISOLATION LEVEL READ COMMITTED");
                // amounts come with a point; where the currency has another number of digits than two, its own reads
                // them
                statement.execute(
                        "SELECT set_config('lc_monetary', 'C', false) WHERE '0.00' = (0::money::numeric)::text");
            }
        }
    }
}
