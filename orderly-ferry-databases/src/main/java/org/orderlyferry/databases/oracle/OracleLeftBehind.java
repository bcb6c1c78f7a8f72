package org.orderlyferry.databases.oracle;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.BiFunction;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/** What a database of Oracle's has that isn't carried. */
final class OracleLeftBehind {

    private static final String OWN = "its SQL is Oracle's own; make it anew at the target";

    /** Schemas that aren't of the system. */
    private static final String OWNERS = " JOIN SYS.ALL_USERS u ON u.ORACLE_MAINTAINED = 'N' AND u.USERNAME = ";

    private interface Sentence {
        LeftBehind of(TableName table, ResultSet row) throws SQLException;
    }

    private final CatalogueQuery query;
    private final BiFunction<String, String, TableName> names;
    private final List<LeftBehind> all = new ArrayList<>();

    OracleLeftBehind(CatalogueQuery query, BiFunction<String, String, TableName> names) {
        this.query = query;
        this.names = names;
    }

    List<LeftBehind> all() throws SQLException {
        each(
                "p.POLICY_NAME",
                " JOIN SYS.ALL_POLICIES p ON p.OBJECT_OWNER = t.OWNER AND p.OBJECT_NAME = t.TABLE_NAME AND p.SEL = 'YES'"
                        + " AND p.ENABLE = 'YES'",
                "",
                (table, row) -> LeftBehind.of(
                        table,
                        "records",
                        "the policy " + row.getString(3)
                                + " may hide some of them from the user who reads, whom nobody tells; read as one who has"
                                + " EXEMPT ACCESS POLICY"));
        objects();
        columns();
        rules();
        each(
                "p.PRIVILEGE, p.GRANTEE",
                " JOIN SYS.ALL_TAB_PRIVS p ON p.TABLE_SCHEMA = t.OWNER AND p.TABLE_NAME = t.TABLE_NAME",
                "",
                (table, row) -> LeftBehind.of(
                        table,
                        "grant",
                        row.getString(3) + " to " + row.getString(4) + "; users are the target's own matter"));
        return all;
    }

    /** Asks for rows that begin with a table's schema and name. */
    private void each(String what, String from, String where, Sentence sentence) throws SQLException {
        query.each(
                "SELECT t.OWNER, t.TABLE_NAME, " + what + OracleDefinitions.TABLES + from + OracleDefinitions.USERS
                        + where + " ORDER BY 1, 2, 3",
                row -> all.add(sentence.of(names.apply(row.getString(1), row.getString(2)), row)));
    }

    private void objects() throws SQLException {
        query.each(
                "SELECT o.OWNER, o.OBJECT_NAME, o.OBJECT_TYPE FROM SYS.ALL_OBJECTS o" + OWNERS + "o.OWNER WHERE"
                        + " o.OBJECT_TYPE IN ('VIEW', 'MATERIALIZED VIEW', 'PROCEDURE', 'FUNCTION', 'PACKAGE', 'TYPE',"
                        + " 'SYNONYM') ORDER BY 3, 1, 2",
                row -> {
                    String kind = row.getString(3).toLowerCase(Locale.ROOT);
                    all.add(new LeftBehind(
                            kind,
                            names.apply(row.getString(1), row.getString(2)).toString(),
                            kind.equals("synonym") ? "it is another name for something" : OWN));
                });
        query.each(
                "SELECT g.TABLE_OWNER, g.TABLE_NAME, g.TRIGGER_NAME FROM SYS.ALL_TRIGGERS g" + OWNERS
                        + "g.TABLE_OWNER WHERE g.TABLE_NAME IS NOT NULL ORDER BY 1, 2, 3",
                row -> all.add(LeftBehind.of(
                        names.apply(row.getString(1), row.getString(2)), "trigger", row.getString(3), OWN)));
        query.each(
                "SELECT q.SEQUENCE_OWNER, q.SEQUENCE_NAME, q.LAST_NUMBER FROM SYS.ALL_SEQUENCES q" + OWNERS
                        + "q.SEQUENCE_OWNER WHERE q.SEQUENCE_NAME NOT LIKE 'ISEQ$$\\_%' ESCAPE '\\' ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "sequence",
                        names.apply(row.getString(1), row.getString(2)).toString(),
                        "it belongs to no column; its next value is " + row.getString(3))));
        query.each(
                "SELECT t.OWNER, t.TABLE_NAME FROM SYS.ALL_TABLES t" + OWNERS + "t.OWNER WHERE t.TEMPORARY = 'Y'"
                        + " ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "temporary table",
                        names.apply(row.getString(1), row.getString(2)).toString(),
                        "its records are each session's own")));
    }

    private void columns() throws SQLException {
        each(
                "c.COLUMN_NAME, c.DATA_TYPE",
                OracleDefinitions.COLUMNS,
                " AND NOT (" + OracleDefinitions.READABLE + ")",
                (table, row) -> LeftBehind.of(
                        table,
                        "column",
                        row.getString(3),
                        "its values, of the type " + row.getString(4)
                                + ", are none that can be read as text or bytes"));
        each(
                "c.COLUMN_NAME, c.DATA_TYPE",
                OracleDefinitions.COLUMNS,
                " AND (c.DATA_TYPE LIKE 'INTERVAL%' OR c.DATA_TYPE IN ('ROWID', 'UROWID', 'VECTOR'))",
                (table, row) -> LeftBehind.of(
                        table,
                        "type",
                        row.getString(3),
                        "values of " + row.getString(4) + " are carried as text, as Oracle writes them"));
        each(
                "c.COLUMN_NAME",
                OracleDefinitions.COLUMNS,
                " AND c.HIDDEN_COLUMN = 'YES' AND " + OracleDefinitions.READABLE,
                (table, row) ->
                        LeftBehind.of(table, "invisibility", row.getString(3), "the column comes as one that is seen"));
        each(
                "c.COLUMN_NAME",
                OracleDefinitions.COLUMNS,
                " AND c.DEFAULT_ON_NULL = 'YES' AND c.IDENTITY_COLUMN = 'NO'",
                (table, row) -> LeftBehind.of(
                        table, "default on null", row.getString(3), "a null that is written is one at the target"));
    }

    /** What of rules and indexes can't be said, or isn't held. */
    private void rules() throws SQLException {
        each(
                "i.INDEX_NAME, i.INDEX_TYPE",
                " JOIN SYS.ALL_INDEXES i ON i.TABLE_OWNER = t.OWNER AND i.TABLE_NAME = t.TABLE_NAME",
                " AND (i.INDEX_TYPE LIKE '%BITMAP' OR i.INDEX_TYPE LIKE '%DOMAIN')",
                (table, row) -> LeftBehind.of(
                        table,
                        "index",
                        row.getString(3),
                        "it is " + row.getString(4).toLowerCase(Locale.ROOT) + ", which is Oracle's own"));
        each(
                "i.INDEX_NAME",
                " JOIN SYS.ALL_INDEXES i ON i.TABLE_OWNER = t.OWNER AND i.TABLE_NAME = t.TABLE_NAME",
                " AND i.STATUS = 'UNUSABLE'",
                (table, row) -> LeftBehind.of(table, "index", row.getString(3), "it can't be used there"));
        each(
                "k.CONSTRAINT_NAME, k.CONSTRAINT_TYPE, k.STATUS",
                " JOIN SYS.ALL_CONSTRAINTS k ON k.OWNER = t.OWNER AND k.TABLE_NAME = t.TABLE_NAME",
                " AND k.CONSTRAINT_TYPE IN ('P', 'U', 'R', 'C') AND NOT (k.STATUS = 'ENABLED' AND k.VALIDATED ="
                        + " 'VALIDATED')",
                (table, row) -> LeftBehind.of(
                        table,
                        switch (row.getString(4)) {
                            case "P" -> "primary key";
                            case "U" -> "unique key";
                            case "R" -> "reference";
                            default -> "check";
                        },
                        row.getString(3),
                        row.getString(5).equals("ENABLED")
                                ? "nobody has looked whether the records that were there keep it (it isn't validated)"
                                : "it is switched off, so records may break it"));
    }
}
