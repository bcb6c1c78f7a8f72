package org.orderlyferry.databases.postgresql;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import org.orderlyferry.databases.dialect.DefinitionSql;

/**
 * Functions and operators that somebody else has made under the names of PostgreSQL's own, where a session looks names
 * up. One that fits the types better is taken for the system's, and would be run with the rights of who is signed in:
 * {@code max(varchar)}, say. So no session is used where there are such.
 *
 * <p>A superuser's are let be, since they may do anything as it is, and so are one's own.
 */
final class ShadowedBuiltIns {

    /** That of a name which is the system's own. */
    private static final String RESERVED_NAME = "42939";

    /** What isn't the system's own has numbers from here on. */
    private static final String FIRST_MADE = "16384";

    /** The functions that statements of ours call, or that a condition may be handed on as. */
    private static final List<String> CALLED = List.of(
            "abbrev",
            "abs",
            "aclexplode",
            "array_agg",
            "array_dims",
            "array_to_string",
            "cardinality",
            "char_length",
            "col_description",
            "concat",
            "convert_to",
            "count",
            "current_database",
            "current_schema",
            "current_schemas",
            "current_setting",
            "extract",
            "date_bin",
            "date_part",
            "format",
            "format_type",
            "generate_series",
            "hash_numeric_extended",
            "hash_record_extended",
            "hashfloat4extended",
            "hashfloat8extended",
            "hashint2extended",
            "hashint4extended",
            "hashint8extended",
            "hashtextextended",
            "has_database_privilege",
            "has_function_privilege",
            "has_sequence_privilege",
            "has_table_privilege",
            "isfinite",
            "lower",
            "max",
            "min",
            "nextval",
            "now",
            "num_nulls",
            "obj_description",
            "octet_length",
            "pg_control_checkpoint",
            "pg_control_system",
            "pg_export_snapshot",
            "pg_get_constraintdef",
            "pg_get_expr",
            "pg_get_indexdef",
            "pg_get_serial_sequence",
            "pg_get_statisticsobjdef",
            "pg_get_triggerdef",
            "pg_get_userbyid",
            "pg_get_viewdef",
            "pg_has_role",
            "pg_relation_filenode",
            "pg_relation_size",
            "pg_total_relation_size",
            "pg_try_advisory_lock",
            "pg_try_advisory_xact_lock",
            "pg_typeof",
            "quote_ident",
            "replace",
            "rtrim",
            "set_config",
            "setval",
            "sum",
            "timestamp_hash_extended",
            "timezone",
            "to_json",
            "to_jsonb",
            "to_regprocedure",
            "to_regtype",
            "txid_current_snapshot",
            "txid_snapshot_xmax",
            "txid_snapshot_xmin",
            "unnest",
            "upper",
            "uuid_hash_extended");

    private static final String EQUALS = " OPERATOR(pg_catalog.=) ";

    private ShadowedBuiltIns() {}

    /**
     * Looks up names in PostgreSQL's own schema first, whatever the session is set to.
     *
     * @throws SQLException where a stranger's function or operator could be taken for one of the system's
     */
    static void refuse(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            // where it is named it comes in that place, and else before all others
            statement.execute("SELECT pg_catalog.set_config('search_path', (SELECT pg_catalog.string_agg("
                    + "pg_catalog.quote_ident(s)::pg_catalog.text, ', '::pg_catalog.text ORDER BY i) FROM"
                    + " ROWS FROM (pg_catalog.unnest(pg_catalog.current_schemas(false))) WITH ORDINALITY AS p (s, i)"
                    + " WHERE s OPERATOR(pg_catalog.<>) 'pg_catalog'::pg_catalog.name), false)"
                    + " WHERE 'pg_catalog'::pg_catalog.name" + EQUALS
                    + "ANY (pg_catalog.current_schemas(false))");
            try (ResultSet any = statement.executeQuery(suspicion())) {
                if (!any.next()) {
                    return;
                }
            }
            try (ResultSet row = statement.executeQuery(question())) {
                if (row.next()) {
                    throw new SQLException(
                            "the schema " + row.getString(1) + ", in which the session looks names up, has the "
                                    + row.getString(2) + " of " + row.getString(3)
                                    + ", which could be run in place of PostgreSQL's own, with the rights of who is signed"
                                    + " in; let it be dropped or renamed, or name another schema by currentSchema in the address",
                            RESERVED_NAME);
                }
            }
        }
    }

    /**
     * Whether anybody has made any such, in whatever schema. That is seldom, and asked of every session, in a fraction of the
     * time that the question for whose they are takes the server to plan.
     */
    private static String suspicion() {
        String made = " WHERE oid OPERATOR(pg_catalog.>=) " + DefinitionSql.string(FIRST_MADE) + "::pg_catalog.oid";
        return "SELECT 1 FROM pg_catalog.pg_proc" + made + " AND proname::pg_catalog.text" + EQUALS + "ANY (" + names()
                + "::pg_catalog.text[]) UNION ALL SELECT 1 FROM pg_catalog.pg_operator" + made + " LIMIT 1";
    }

    private static String names() {
        return DefinitionSql.string("{" + String.join(",", CALLED) + "}");
    }

    /** Each name in it has its schema, since it is asked before anything is known. */
    private static String question() {
        return shadowed(
                        "'function '::pg_catalog.text OPERATOR(pg_catalog.||) p.oid::pg_catalog.regprocedure::pg_catalog.text",
                        "pg_catalog.pg_proc p",
                        "p.pronamespace",
                        "p.proowner",
                        "p.proname" + EQUALS + "ANY (" + names() + "::pg_catalog.name[])")
                + " UNION ALL "
                + shadowed(
                        "'operator '::pg_catalog.text OPERATOR(pg_catalog.||) o.oid::pg_catalog.regoperator::pg_catalog.text",
                        "pg_catalog.pg_operator o",
                        "o.oprnamespace",
                        "o.oprowner",
                        "EXISTS (SELECT 1 FROM pg_catalog.pg_operator b WHERE b.oprname" + EQUALS + "o.oprname AND"
                                + " b.oprnamespace" + EQUALS + "'pg_catalog'::pg_catalog.regnamespace)")
                + " LIMIT 1";
    }

    private static String shadowed(String what, String from, String schema, String owner, String like) {
        return "SELECT n.nspname, " + what + ", pg_catalog.pg_get_userbyid(" + owner + ") FROM " + from
                + " JOIN pg_catalog.pg_namespace n ON n.oid" + EQUALS + schema
                + " LEFT JOIN pg_catalog.pg_roles r ON r.oid" + EQUALS + owner
                + " WHERE n.nspname" + EQUALS + "ANY (pg_catalog.current_schemas(false)) AND " + like
                + " AND (r.rolsuper OR r.rolname" + EQUALS + "current_user::pg_catalog.name) IS NOT TRUE";
    }
}
