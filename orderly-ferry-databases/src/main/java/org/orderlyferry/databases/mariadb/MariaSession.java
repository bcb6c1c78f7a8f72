package org.orderlyferry.databases.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.orderlyferry.databases.dialect.DefinitionSql;

/**
 * What every session of ours is set to, since the server, what it runs on connecting, and the address may each have set
 * it otherwise, and how many records a query gives, what a rule refuses, or the time that a statement may take hangs on
 * it.
 */
final class MariaSession {

    private static final String ALL = "18446744073709551615";
    private static final String HOUR_SECONDS = "3600";
    private static final String WEEK_SECONDS = "604800";

    private static final Map<String, String> SETTINGS = settings();

    private MariaSession() {}

    private static Map<String, String> settings() {
        Map<String, String> all = new LinkedHashMap<>();
        // a safe mode lets no record be changed without its key
        all.put("sql_safe_updates", "0");
        all.put("sql_auto_is_null", "0");
        // records of the past
        all.put("system_versioning_asof", "DEFAULT");
        // rules hold, and what is amiss is told
        all.put("check_constraint_checks", "1");
        all.put("unique_checks", "1");
        all.put("innodb_strict_mode", "1");
        all.put("explicit_defaults_for_timestamp", "1");
        all.put("old_mode", "''");
        // what is written down of a load commits together with its records
        all.put("default_storage_engine", "InnoDB");
        all.put("max_error_count", "64");
        all.put("sql_notes", "1");
        all.put("completion_type", "'NO_CHAIN'");
        // lists of names, whole
        all.put("group_concat_max_len", "16777216");
        all.put("sql_quote_show_create", "1");
        // what is meant for those who forget a query ends a session that keeps a snapshot, or makes an index
        all.put("max_statement_time", "0");
        all.put("max_execution_time", "0");
        all.put("idle_transaction_timeout", "0");
        all.put("idle_readonly_transaction_timeout", "0");
        all.put("idle_write_transaction_timeout", "0");
        all.put("wait_timeout", WEEK_SECONDS);
        // a slow disk, or a slow source, keeps the server waiting
        all.put("net_read_timeout", HOUR_SECONDS);
        all.put("net_write_timeout", HOUR_SECONDS);
        return all;
    }

    /** Sets what the server knows: others don't know all. */
    static void settle(Connection connection, boolean write) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            // what the driver takes texts for
            statement.execute("SET NAMES utf8mb4");
            // before anything is asked, since a safe mode cuts answers off in silence, and refuses larger questions
            statement.execute(
                    "SET SESSION sql_select_limit = " + ALL + ", sql_big_selects = 1, max_join_size = " + ALL);
            List<String> set = new ArrayList<>();
            set.add("time_zone = '+00:00'");
            set.add("sql_mode = 'NO_BACKSLASH_ESCAPES,STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION,NO_AUTO_VALUE_ON_ZERO'");
            // references are checked by a query of our own, once all tables are there
            set.add("foreign_key_checks = " + (write ? 0 : 1));
            for (String known : known(statement)) {
                set.add(known + " = " + SETTINGS.get(known));
            }
            statement.execute("SET SESSION " + String.join(", ", set));
            if (write) {
                statement.execute("SET SESSION TRANSACTION ISOLATION LEVEL REPEATABLE READ");
            }
        }
    }

    private static List<String> known(Statement statement) throws SQLException {
        String names = String.join(
                ", ", SETTINGS.keySet().stream().map(DefinitionSql::string).toList());
        List<String> known = new ArrayList<>();
        try (ResultSet row = statement.executeQuery("SHOW SESSION VARIABLES WHERE Variable_name IN (" + names + ")")) {
            while (row.next()) {
                known.add(row.getString(1).toLowerCase(Locale.ROOT));
            }
        }
        return known;
    }
}
