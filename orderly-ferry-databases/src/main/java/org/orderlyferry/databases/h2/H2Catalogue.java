package org.orderlyferry.databases.h2;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** H2's own catalogue: its INFORMATION_SCHEMA, which goes well beyond what JDBC's metadata offers. */
final class H2Catalogue implements Catalogue {

    private static final String TABLES =
            "SELECT TABLE_SCHEMA, TABLE_NAME FROM INFORMATION_SCHEMA.TABLES t WHERE TABLE_TYPE ="
                    + " 'BASE TABLE' AND TABLE_SCHEMA <> 'INFORMATION_SCHEMA'";
    private static final String HAS_COLUMNS =
            " EXISTS (SELECT 1 FROM INFORMATION_SCHEMA.COLUMNS c WHERE c.TABLE_SCHEMA ="
                    + " t.TABLE_SCHEMA AND c.TABLE_NAME = t.TABLE_NAME)";

    /** So many tables are asked for one by one; then all, since the catalogue is gone through for each as it is for all. */
    private static final int FEW = 8;

    private final CatalogueQuery query;
    private H2Names names;
    private Map<TableName, TableDefinition> together;
    private int asked;

    H2Catalogue(Connection connection) {
        this.query = new CatalogueQuery(connection);
    }

    private H2Names names() throws SQLException {
        if (names == null) {
            names = H2Names.of(query);
        }
        return names;
    }

    TableName name(String schema, String table) throws SQLException {
        return names().name(schema, table);
    }

    @Override
    public List<TableName> tables() throws SQLException {
        List<TableName> tables = new ArrayList<>();
        query.each(
                TABLES + " AND" + HAS_COLUMNS + " ORDER BY 1, 2",
                row -> tables.add(name(row.getString(1), row.getString(2))));
        return tables;
    }

    @Override
    public Map<TableName, String> otherNames() throws SQLException {
        Map<TableName, String> names = new LinkedHashMap<>();
        query.each(
                "SELECT TABLE_SCHEMA, TABLE_NAME, CASE TABLE_TYPE WHEN 'VIEW' THEN 'a view' ELSE 'a table of another"
                        + " kind' END FROM INFORMATION_SCHEMA.TABLES WHERE TABLE_TYPE <> 'BASE TABLE' AND TABLE_SCHEMA <>"
                        + " 'INFORMATION_SCHEMA'",
                row -> names.put(name(row.getString(1), row.getString(2)), row.getString(3)));
        return names;
    }

    @Override
    public TableDefinition define(TableName table) throws SQLException {
        if (together == null && ++asked > FEW) {
            together = new H2Definitions(query, names()).all();
        }
        // one that has been made since is asked for alone
        return together == null || !together.containsKey(table)
                ? new H2Definitions(query, names()).one(table)
                : together.get(table);
    }

    /** Whatever schema they are of. */
    @Override
    public boolean changesWhatComes(TableName table) throws SQLException {
        return query.any(
                "SELECT 1 FROM INFORMATION_SCHEMA.TRIGGERS WHERE EVENT_OBJECT_TABLE = ? LIMIT 1", table.name());
    }

    @Override
    public List<LeftBehind> leftBehind() throws SQLException {
        List<LeftBehind> all = new ArrayList<>();
        String reason = "its SQL is H2's own; make it anew at the target";
        query.each(
                TABLES + " AND NOT" + HAS_COLUMNS + " ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "table",
                        name(row.getString(1), row.getString(2)).toString(),
                        "it has no columns, and so nothing that could be carried")));
        query.each(
                "SELECT TABLE_SCHEMA, TABLE_NAME FROM INFORMATION_SCHEMA.TABLES WHERE TABLE_TYPE = 'GLOBAL TEMPORARY'"
                        + " ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "temporary table",
                        name(row.getString(1), row.getString(2)).toString(),
                        reason)));
        query.each(
                "SELECT TABLE_SCHEMA, TABLE_NAME FROM INFORMATION_SCHEMA.VIEWS"
                        + " WHERE TABLE_SCHEMA <> 'INFORMATION_SCHEMA' ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "view", name(row.getString(1), row.getString(2)).toString(), reason)));
        query.each(
                "SELECT TRIGGER_NAME, EVENT_OBJECT_TABLE, EVENT_OBJECT_SCHEMA FROM INFORMATION_SCHEMA.TRIGGERS ORDER BY 1",
                row -> all.add(
                        LeftBehind.of(name(row.getString(3), row.getString(2)), "trigger", row.getString(1), reason)));
        query.each(
                "SELECT ROUTINE_NAME FROM INFORMATION_SCHEMA.ROUTINES"
                        + " WHERE ROUTINE_SCHEMA <> 'INFORMATION_SCHEMA' ORDER BY 1",
                row -> all.add(new LeftBehind("routine", row.getString(1), reason)));
        query.each(
                "SELECT SEQUENCE_NAME, BASE_VALUE FROM INFORMATION_SCHEMA.SEQUENCES WHERE SEQUENCE_NAME NOT LIKE"
                        + " 'SYSTEM\\_SEQUENCE%' ORDER BY 1",
                row -> all.add(new LeftBehind(
                        "sequence",
                        row.getString(1),
                        "it belongs to no column; its next value is " + row.getString(2))));
        query.each(
                "SELECT TABLE_SCHEMA, TABLE_NAME, COLUMN_NAME, DATA_TYPE FROM INFORMATION_SCHEMA.COLUMNS WHERE DATA_TYPE IN"
                        + " ('GEOMETRY', 'TIME WITH TIME ZONE', 'ROW', 'ARRAY', 'INTERVAL', 'JAVA_OBJECT')"
                        + " AND TABLE_SCHEMA <> 'INFORMATION_SCHEMA' ORDER BY 1, 2, 3",
                row -> all.add(LeftBehind.of(
                        name(row.getString(1), row.getString(2)),
                        "type",
                        row.getString(3),
                        "values of " + row.getString(4) + " are carried as text, as H2 writes them")));
        query.each(
                "SELECT TABLE_SCHEMA, TABLE_NAME, GRANTEE, PRIVILEGE_TYPE FROM INFORMATION_SCHEMA.TABLE_PRIVILEGES WHERE TABLE_SCHEMA"
                        + " <> 'INFORMATION_SCHEMA' ORDER BY 1, 2, 3, 4",
                row -> all.add(LeftBehind.of(
                        name(row.getString(1), row.getString(2)),
                        "grant",
                        row.getString(4) + " to " + row.getString(3) + "; users are the target's own matter")));
        query.each(
                "SELECT TABLE_SCHEMA, TABLE_NAME, COLUMN_NAME, DOMAIN_NAME FROM INFORMATION_SCHEMA.COLUMNS WHERE DOMAIN_NAME IS NOT"
                        + " NULL AND TABLE_SCHEMA <> 'INFORMATION_SCHEMA' ORDER BY 1, 2, 3",
                row -> all.add(LeftBehind.of(
                        name(row.getString(1), row.getString(2)),
                        "domain",
                        row.getString(3),
                        "the column arrives as the type that " + row.getString(4) + " is made of")));
        UnusualRules.tell(this, query, all);
        return all;
    }
}
