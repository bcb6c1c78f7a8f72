package org.orderlyferry.databases.sqlserver;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.BiFunction;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.dialect.NotCarried;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/** What a database of SQL Server's has that isn't carried. */
final class SqlServerLeftBehind {

    private static final String OWN = "its SQL is SQL Server's own; make it anew at the target";

    private interface Sentence {
        LeftBehind of(TableName table, ResultSet row) throws SQLException;
    }

    private final CatalogueQuery query;
    private final BiFunction<String, String, TableName> names;
    private final List<LeftBehind> all = new ArrayList<>();

    SqlServerLeftBehind(CatalogueQuery query, BiFunction<String, String, TableName> names) {
        this.query = query;
        this.names = names;
    }

    List<LeftBehind> all() throws SQLException {
        hiddenRecords();
        objects();
        types();
        rules();
        each(
                "p.permission_name, u.name",
                " JOIN sys.database_permissions p ON p.class = 1 AND p.major_id = t.object_id AND p.state IN ('G', 'W') JOIN sys.database_principals u"
                        + " ON u.principal_id = p.grantee_principal_id" + SqlServerDefinitions.USERS,
                (table, row) -> LeftBehind.of(
                        table,
                        "grant",
                        row.getString(3) + " to " + row.getString(4) + "; users are the target's own matter"));
        return all;
    }

    /** Asks for rows that begin with a table's schema and name. */
    private void each(String what, String from, Sentence sentence) throws SQLException {
        query.each(
                "SELECT s.name, t.name, " + what + SqlServerDefinitions.TABLES + from + " ORDER BY 1, 2, 3",
                row -> all.add(sentence.of(names.apply(row.getString(1), row.getString(2)), row)));
    }

    /** What keeps records, or their values, from whoever asks, and says nothing. */
    private void hiddenRecords() throws SQLException {
        each(
                "p.name",
                " JOIN sys.security_predicates f ON f.target_object_id = t.object_id AND f.predicate_type = 0"
                        + " JOIN sys.security_policies p ON p.object_id = f.object_id AND p.is_enabled = 1"
                        + SqlServerDefinitions.USERS,
                (table, row) -> LeftBehind.of(
                        table,
                        "records",
                        "the policy " + row.getString(3)
                                + " may hide some of them from the user who reads, whom nobody tells; switch it off, or"
                                + " read as one whom it lets see all"));
        each(
                "c.name",
                SqlServerDefinitions.COLUMNS + SqlServerDefinitions.USERS
                        + " AND c.is_masked = 1 AND HAS_PERMS_BY_NAME(DB_NAME(), 'DATABASE', 'UNMASK') = 0",
                (table, row) -> LeftBehind.of(
                        table,
                        "records",
                        row.getString(3),
                        "the column is masked for the user who reads, to whom other values are shown; it takes the right"
                                + " UNMASK"));
        each(
                "c.name",
                SqlServerDefinitions.COLUMNS + SqlServerDefinitions.USERS + " AND c.encryption_type IS NOT NULL",
                (table, row) -> LeftBehind.of(
                        table,
                        "type",
                        row.getString(3),
                        "the column's values are encrypted by whoever writes them; as they are they come only where the"
                                + " driver's URL has columnEncryptionSetting=Enabled and the key is at hand"));
        query.each(
                "SELECT s.name, t.name" + SqlServerDefinitions.TABLES
                        + " WHERE t.is_ms_shipped = 0 AND t.temporal_type = 1 ORDER BY 1, 2",
                row -> {
                    TableName table = names.apply(row.getString(1), row.getString(2));
                    all.add(LeftBehind.of(
                            table, "history", "what the rows of another table were before; what they are is carried"));
                });
    }

    private void objects() throws SQLException {
        query.each(
                "SELECT s.name, o.name, o.type_desc FROM sys.objects o JOIN sys.schemas s ON s.schema_id = o.schema_id"
                        + " WHERE o.is_ms_shipped = 0 AND o.type IN ('V', 'P', 'PC', 'FN', 'FS', 'IF', 'TF', 'FT', 'AF',"
                        + " 'SO', 'SN', 'R') ORDER BY 3, 1, 2",
                row -> {
                    String kind = row.getString(3).toLowerCase(Locale.ROOT).replace('_', ' ');
                    all.add(new LeftBehind(
                            kind.endsWith("sequence object") ? "sequence" : kind,
                            names.apply(row.getString(1), row.getString(2)).toString(),
                            kind.endsWith("sequence object")
                                    ? NotCarried.NO_COLUMN
                                    : kind.equals("synonym") ? "it is another name for something" : OWN));
                });
        each(
                "g.name",
                " JOIN sys.triggers g ON g.parent_id = t.object_id" + SqlServerDefinitions.USERS,
                (table, row) -> LeftBehind.of(table, "trigger", row.getString(3), OWN));
    }

    private void types() throws SQLException {
        String columns = SqlServerDefinitions.COLUMNS + SqlServerDefinitions.TYPES + SqlServerDefinitions.USERS;
        each(
                "c.name, y.name",
                columns + " AND y.name IN ('sql_variant', 'hierarchyid', 'geometry', 'geography', 'vector')",
                (table, row) -> LeftBehind.of(
                        table, "type", row.getString(3), "values of " + row.getString(4) + carried(row.getString(4))));
        each(
                "c.name, y.name",
                columns + " AND y.is_user_defined = 1 AND b.name IS NOT NULL",
                (table, row) -> LeftBehind.of(
                        table,
                        "domain",
                        row.getString(3),
                        "the column arrives as the type that " + row.getString(4) + " is made of"));
        each(
                "c.name, c.collation_name",
                columns + " AND c.collation_name <> CAST(DATABASEPROPERTYEX(DB_NAME(), 'Collation') AS nvarchar(128))",
                (table, row) -> LeftBehind.of(
                        table,
                        "collation",
                        row.getString(3),
                        "its texts are ordered and told apart by " + row.getString(4)));
        query.each(
                "SELECT s.name, t.name, c.name" + SqlServerDefinitions.TABLES
                        + " JOIN sys.columns c ON c.object_id = t.object_id" + SqlServerDefinitions.USERS
                        + " AND c.is_column_set = 1 ORDER BY 1, 2, 3",
                row -> all.add(LeftBehind.of(
                        names.apply(row.getString(1), row.getString(2)),
                        "column",
                        row.getString(3),
                        "it shows the sparse columns, which are carried, once more")));
    }

    private static String carried(String type) {
        return switch (type) {
            case "sql_variant" -> " are carried as text, without the type that each has";
            case "vector" -> " are carried as text";
            default -> " are carried as bytes, in SQL Server's own form";
        };
    }

    /** What of rules and indexes is there and can't be said, or isn't held. */
    private void rules() throws SQLException {
        each(
                "i.name, i.type_desc",
                " JOIN sys.indexes i ON i.object_id = t.object_id" + SqlServerDefinitions.USERS
                        + " AND i.type NOT IN (0, 1, 2, 7)",
                (table, row) -> LeftBehind.of(
                        table,
                        "index",
                        row.getString(3),
                        "it is " + row.getString(4).toLowerCase(Locale.ROOT) + ", which is SQL Server's own"));
        each(
                "i.name",
                " JOIN sys.indexes i ON i.object_id = t.object_id" + SqlServerDefinitions.USERS
                        + " AND i.type IN (1, 2, 7) AND i.is_disabled = 1",
                (table, row) -> LeftBehind.of(table, "index", row.getString(3), "it is switched off"));
        each(
                "i.name, c.name",
                " JOIN sys.indexes i ON i.object_id = t.object_id JOIN sys.index_columns x ON x.object_id = i.object_id"
                        + " AND x.index_id = i.index_id AND x.is_included_column = 1 JOIN sys.columns c"
                        + " ON c.object_id = i.object_id AND c.column_id = x.column_id" + SqlServerDefinitions.USERS
                        + " AND i.type IN (1, 2, 7)",
                (table, row) -> LeftBehind.of(
                        table,
                        "index",
                        row.getString(3),
                        "it comes without " + row.getString(4) + ", which it holds and isn't ordered by"));
        unheld("reference", "foreign_keys");
        unheld("check", "check_constraints");
    }

    private void unheld(String kind, String view) throws SQLException {
        each(
                "k.name, k.is_disabled",
                " JOIN sys." + view + " k ON k.parent_object_id = t.object_id" + SqlServerDefinitions.USERS
                        + " AND (k.is_disabled = 1 OR k.is_not_trusted = 1)",
                (table, row) -> LeftBehind.of(
                        table,
                        kind,
                        row.getString(3),
                        row.getBoolean(4)
                                ? "it is switched off, so records may break it"
                                : "nobody has looked whether the records that were there keep it (it isn't trusted)"));
    }
}
