package org.orderlyferry.databases.mariadb;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.dialect.NotCarried;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/** What a MariaDB database has that definitions of tables have no place for. */
final class MariaLeftBehind {

    private static final int SCHEDULER_DISABLED = 1577;

    private final Connection connection;
    private final CatalogueQuery query;

    MariaLeftBehind(Connection connection, CatalogueQuery query) {
        this.connection = connection;
        this.query = query;
    }

    List<LeftBehind> all() throws SQLException {
        List<LeftBehind> all = new ArrayList<>(TruthColumns.of(connection).told());
        String own = "its SQL is MariaDB's own; make it anew at the target";
        query.each(
                "SELECT TABLE_NAME FROM information_schema.VIEWS WHERE TABLE_SCHEMA = DATABASE() ORDER BY 1",
                row -> all.add(new LeftBehind("view", row.getString(1), own)));
        query.each(
                "SELECT EVENT_OBJECT_TABLE, TRIGGER_NAME FROM information_schema.TRIGGERS"
                        + " WHERE TRIGGER_SCHEMA = DATABASE() ORDER BY 1, 2",
                row -> all.add(LeftBehind.of(TableName.of(row.getString(1)), "trigger", row.getString(2), own)));
        query.each(
                "SELECT ROUTINE_NAME FROM information_schema.ROUTINES WHERE ROUTINE_SCHEMA = DATABASE() ORDER BY 1",
                row -> all.add(new LeftBehind("routine", row.getString(1), own)));
        query.each(
                "SELECT DISTINCT TABLE_NAME, INDEX_NAME, INDEX_TYPE FROM information_schema.STATISTICS"
                        + " WHERE TABLE_SCHEMA = DATABASE() AND INDEX_TYPE <> 'BTREE' AND NON_UNIQUE = 1 ORDER BY 1, 2",
                row -> all.add(LeftBehind.of(
                        TableName.of(row.getString(1)),
                        "index",
                        row.getString(2),
                        "it is of the kind " + row.getString(3))));
        query.each(
                "SELECT TABLE_NAME, COLUMN_NAME, COLUMN_TYPE FROM information_schema.COLUMNS"
                        + " WHERE TABLE_SCHEMA = DATABASE() ORDER BY 1, 2",
                row -> {
                    if (MariaTypes.isCarriedAsText(row.getString(3))) {
                        all.add(LeftBehind.of(
                                TableName.of(row.getString(1)),
                                "type",
                                row.getString(2),
                                "values of " + row.getString(3) + " are carried as text"));
                    }
                });
        query.each(
                "SELECT t.TABLE_NAME, t.ENGINE FROM information_schema.TABLES t JOIN information_schema.ENGINES e"
                        + " ON e.ENGINE = t.ENGINE WHERE t.TABLE_SCHEMA = DATABASE() AND t.TABLE_TYPE IN ('BASE TABLE',"
                        + " 'SYSTEM VERSIONED') AND COALESCE(e.TRANSACTIONS, 'NO') <> 'YES' ORDER BY 1",
                row -> all.add(LeftBehind.of(
                        TableName.of(row.getString(1)),
                        "moment",
                        "the engine " + row.getString(2) + " has no transactions, so what is written to the table while"
                                + " it is read may come, or not")));
        query.each(
                "SELECT TABLE_NAME, COLUMN_NAME, EXTRA, COLUMN_TYPE FROM information_schema.COLUMNS WHERE TABLE_SCHEMA ="
                        + " DATABASE() AND (EXTRA LIKE '%on update%' OR COLUMN_TYPE LIKE '%COMPRESSED%') ORDER BY 1, 2",
                row -> all.add(
                        row.getString(3).contains("on update")
                                ? LeftBehind.of(
                                        TableName.of(row.getString(1)),
                                        "on update",
                                        row.getString(2),
                                        NotCarried.ON_UPDATE + ": " + row.getString(3))
                                : LeftBehind.of(
                                        TableName.of(row.getString(1)),
                                        "compression",
                                        row.getString(2),
                                        "its values aren't compressed in their column")));
        events(all, own);
        unseenColumns(all);
        otherTables(all);
        times(all);
        query.each(
                "SELECT DISTINCT TABLE_NAME FROM information_schema.PARTITIONS WHERE TABLE_SCHEMA = DATABASE()"
                        + " AND PARTITION_NAME IS NOT NULL ORDER BY 1",
                row -> all.add(LeftBehind.of(TableName.of(row.getString(1)), "partitioning", NotCarried.PARTITIONS)));
        query.each(
                "SELECT DISTINCT TABLE_NAME, GRANTEE, PRIVILEGE_TYPE FROM information_schema.TABLE_PRIVILEGES"
                        + " WHERE TABLE_SCHEMA = DATABASE() ORDER BY 1, 2, 3",
                row -> all.add(LeftBehind.of(
                        TableName.of(row.getString(1)),
                        "grant",
                        row.getString(3) + " to " + row.getString(2) + "; users are the target's own matter")));
        return all;
    }

    /** A server without a scheduler doesn't list its events either. */
    private void events(List<LeftBehind> all, String own) throws SQLException {
        try {
            query.each(
                    "SELECT EVENT_NAME FROM information_schema.EVENTS WHERE EVENT_SCHEMA = DATABASE() ORDER BY 1",
                    row -> all.add(new LeftBehind("event", row.getString(1), own)));
        } catch (SQLException e) {
            if (e.getErrorCode() != SCHEDULER_DISABLED) {
                throw e;
            }
            all.add(new LeftBehind("event", "(all)", "the server doesn't list them: " + e.getMessage()));
        }
    }

    /** Columns that a user has no right to aren't there for that user, and nothing says so. */
    private void unseenColumns(List<LeftBehind> all) throws SQLException {
        List<String> granted = new ArrayList<>();
        query.each(
                "SELECT DISTINCT TABLE_NAME FROM information_schema.COLUMN_PRIVILEGES WHERE TABLE_SCHEMA = DATABASE()"
                        + " ORDER BY 1",
                row -> granted.add(row.getString(1)));
        for (String table : granted) {
            try {
                query.each("SELECT * FROM `" + table.replace("`", "``") + "` LIMIT 0", row -> {});
            } catch (SQLException e) {
                if (!MariaCatalogue.isDenied(e)) {
                    throw e;
                }
                List<String> seen = new ArrayList<>();
                query.each(
                        "SELECT COLUMN_NAME FROM information_schema.COLUMNS WHERE" + MariaCatalogue.HERE
                                + " ORDER BY ORDINAL_POSITION",
                        row -> seen.add(row.getString(1)),
                        table);
                all.add(LeftBehind.of(
                        TableName.of(table),
                        "columns",
                        "the user may see no others than " + String.join(", ", seen) + ", and no others are carried"));
            }
        }
    }

    private void otherTables(List<LeftBehind> all) throws SQLException {
        query.each(
                "SELECT TABLE_NAME, TABLE_TYPE FROM information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE()"
                        + " AND TABLE_TYPE NOT IN ('BASE TABLE', 'VIEW') ORDER BY 1",
                row -> {
                    String name = row.getString(1);
                    all.add(
                            switch (row.getString(2)) {
                                case "SYSTEM VERSIONED" ->
                                    LeftBehind.of(TableName.of(name), "versioning", NotCarried.HISTORY);
                                case "SEQUENCE" -> new LeftBehind("sequence", name, NotCarried.NO_COLUMN);
                                default ->
                                    new LeftBehind(
                                            "table", name, "it is of a kind that isn't read: " + row.getString(2));
                            });
                });
        query.each(
                "SELECT TABLE_NAME, COLUMN_NAME FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = DATABASE()"
                        + " AND EXTRA LIKE '%INVISIBLE%' ORDER BY 1, 2",
                row -> all.add(LeftBehind.of(
                        TableName.of(row.getString(1)), "invisibility", row.getString(2), NotCarried.INVISIBLE)));
    }

    /** Keys that allow no two records at one time; older servers don't list them. */
    private void times(List<LeftBehind> all) throws SQLException {
        boolean[] listed = {false};
        query.each(
                "SELECT 1 FROM information_schema.TABLES WHERE TABLE_SCHEMA = 'information_schema' AND TABLE_NAME ="
                        + " 'PERIODS'",
                row -> listed[0] = true);
        if (listed[0]) {
            query.each(
                    "SELECT TABLE_NAME, PERIOD FROM information_schema.PERIODS WHERE TABLE_SCHEMA = DATABASE() AND PERIOD"
                            + " <> 'SYSTEM_TIME' ORDER BY 1, 2",
                    row -> all.add(LeftBehind.of(
                            TableName.of(row.getString(1)),
                            "period",
                            row.getString(2),
                            "a key over it becomes one of its two columns, which allows more")));
        }
    }
}
