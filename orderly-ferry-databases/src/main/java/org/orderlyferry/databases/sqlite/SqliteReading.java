package org.orderlyferry.databases.sqlite;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.function.Supplier;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.OwnTotals;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;

/** How records are read out of SQLite. */
final class SqliteReading implements Reading {

    private final SqliteDialect dialect;

    SqliteReading(SqliteDialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public void prepare(Connection connection) throws SQLException {
        // The first read begins a transaction, and all later ones see the database as of then.
        try (Statement statement = connection.createStatement()) {
            statement.execute("PRAGMA query_only = ON");
            statement.executeQuery("SELECT COUNT(*) FROM sqlite_schema").close();
        }
    }

    /**
     * As long as somebody reads a database whose journal is one that rolls back, nobody can commit into it, so all who read
     * see the same. With a journal that is written ahead (WAL) others go on writing, and a second connection may see more.
     */
    @Override
    public void share(Session first, Supplier<Session> open, int count, LoadNotes notes) throws SQLException {
        boolean inMemory = first.value("SELECT file FROM pragma_database_list WHERE name = 'main'")
                .orElse("")
                .isEmpty();
        if (inMemory) {
            // another connection would have a database of its own
            return;
        }
        if (first.value("PRAGMA journal_mode").orElse("").equalsIgnoreCase("wal")) {
            notes.finding(
                    FindingCode.LANE_CHANGED,
                    "one connection reads, since others can go on writing (PRAGMA journal_mode is WAL), and a second one"
                            + " might see more than the first");
            return;
        }
        for (int i = 0; i < count; i++) {
            open.get();
        }
    }

    /**
     * Only of whole numbers: all else may stand there as something else than it was declared to be. A sum that doesn't fit
     * into 64 bits is an error.
     */
    @Override
    public OwnTotals ownTotals(ColumnDefinition column) {
        return switch (column.type().name()) {
            case SMALLINT, INTEGER -> new OwnTotals(true, true, false);
            case BIGINT -> new OwnTotals(true, false, false);
            default -> OwnTotals.COUNTED;
        };
    }

    @Override
    public String selected(ColumnDefinition column) {
        return dialect.quote(column.name());
    }

    /** Only numbers and texts are compared as what they are, whatever a column was declared as. */
    @Override
    public boolean canCut(ColumnDefinition column) {
        return switch (column.type().name()) {
            case SMALLINT, INTEGER, BIGINT, CHARACTER, VARCHAR, CLOB -> true;
            default -> false;
        };
    }

    /** A column may hold anything, whatever it was declared as. */
    @Override
    public boolean canRestrict(ColumnDefinition column) {
        return false;
    }

    /** As values are written: a truth is a number, a time of a day has a blank before it, a decimal finds its column's class. */
    @Override
    public String literal(ColumnDefinition column, String value) {
        return switch (column.type().name()) {
            case SMALLINT, INTEGER, BIGINT -> Reading.super.literal(column, value);
            case BOOLEAN -> value.equals("true") ? "1" : "0";
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> DefinitionSql.string(value.replace('T', ' '));
            default -> DefinitionSql.string(value);
        };
    }

    @Override
    public CellReader reader(ColumnDefinition column) {
        return new SqliteCellReader(column.type());
    }

    /** A column has the type of each value; the first record's is taken. */
    @Override
    public boolean describesPrepared() {
        return false;
    }

    @Override
    public LogicalType queried(ResultSetMetaData columns, int index) throws SQLException {
        return SqliteTypes.logical(columns.getColumnTypeName(index));
    }

    @Override
    public long bytes(Connection connection, TableName table) throws SQLException {
        try (PreparedStatement statement =
                connection.prepareStatement("SELECT SUM(pgsize) FROM dbstat WHERE name = ?")) {
            statement.setString(1, table.name());
            try (ResultSet row = statement.executeQuery()) {
                row.next();
                long bytes = row.getLong(1);
                return row.wasNull() ? -1 : bytes;
            }
        }
    }

    @Override
    public boolean readsForBytes() {
        return true;
    }
}
