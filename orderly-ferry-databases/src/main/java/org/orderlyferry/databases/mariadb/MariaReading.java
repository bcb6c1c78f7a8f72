package org.orderlyferry.databases.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Collections;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.WeakHashMap;
import java.util.function.Supplier;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;

/** How records are read out of MariaDB. */
final class MariaReading implements Reading {

    /** How long to wait for writers to end, at most. */
    private static final int PATIENCE_SECONDS = 20;

    private final MariaDialect dialect;
    /** Sessions that others have joined. */
    private final Set<Session> shared = Collections.newSetFromMap(new WeakHashMap<>());

    MariaReading(MariaDialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public String asText(String expression) {
        return "CAST(" + expression + " AS CHAR)";
    }

    /** Not sets of words, which are numbers to it. */
    @Override
    public boolean isPlainText(ColumnDefinition column) {
        String type = column.sourceType().toLowerCase(Locale.ROOT);
        return type.startsWith("varchar") || type.startsWith("char") || type.endsWith("text");
    }

    @Override
    public void prepare(Connection connection) throws SQLException {
        connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
        connection.setReadOnly(true);
        try (Statement statement = connection.createStatement()) {
            // for the transactions that come after this one too
            statement.execute("SET SESSION TRANSACTION READ ONLY");
            statement.execute("START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY");
        }
    }

    @Override
    public String selected(ColumnDefinition column) {
        String name = dialect.quote(column.name());
        return switch (column.type().name()) {
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> "CAST(" + name + " AS CHAR)";
            default -> MariaTypes.isCarriedAsText(column.sourceType()) ? "CAST(" + name + " AS CHAR)" : name;
        };
    }

    /** A driver's own names for a year, and for a day, aren't those of SQL. */
    @Override
    public Optional<String> selectedOfQuery(ColumnDefinition column) {
        LogicalType type = column.type();
        boolean year = type.equals(MariaTypes.YEAR);
        return year || type.name() == TypeName.DATE || type.name().isTimed()
                ? Optional.of("CAST(" + dialect.quote(column.name()) + " AS CHAR)")
                : Optional.empty();
    }

    @Override
    public OptionalLong estimate(Session session, TableName table) throws SQLException {
        return session.value("SELECT TABLE_ROWS FROM information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE() AND"
                        + " TABLE_NAME = " + DefinitionSql.string(table.name()))
                .map(n -> OptionalLong.of(Long.parseLong(n)))
                .orElse(OptionalLong.empty());
    }

    @Override
    public boolean canCut(ColumnDefinition column) {
        return Reading.super.canCut(column) || column.type().name() == TypeName.TIMESTAMP_WITH_TIME_ZONE;
    }

    @Override
    public String literal(ColumnDefinition column, String value) {
        return column.type().name().isTimed()
                ? DefinitionSql.string(value.replace('T', ' ').replace("Z", ""))
                : Reading.super.literal(column, value);
    }

    /**
     * All sessions begin while a lock keeps writers away for a moment. A session that was lost can't come back to that
     * moment.
     */
    @Override
    public void share(Session first, Supplier<Session> open, int count, LoadNotes notes) throws SQLException {
        synchronized (shared) {
            if (!shared.add(first)) {
                return;
            }
        }
        try {
            first.rollback();
            first.execute("SET SESSION lock_wait_timeout = " + PATIENCE_SECONDS);
            first.execute("FLUSH TABLES WITH READ LOCK");
        } catch (SQLException e) {
            prepare(first.connection());
            notes.finding(
                    FindingCode.LANE_CHANGED,
                    "one connection reads, since several wouldn't be sure to see the same state: "
                            + first.explained(e));
            return;
        }
        try {
            for (int i = 0; i < count; i++) {
                open.get();
            }
            first.execute("START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY");
        } finally {
            first.execute("UNLOCK TABLES");
        }
    }

    @Override
    public CellReader reader(ColumnDefinition column) {
        return MariaCells.reader(column.type());
    }

    @Override
    public LogicalType queried(ResultSetMetaData columns, int index) throws SQLException {
        return MariaTypes.ofQuery(
                columns.getColumnTypeName(index), columns.getPrecision(index), columns.getScale(index));
    }

    @Override
    public long bytes(Connection connection, TableName table) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement("SELECT DATA_LENGTH + INDEX_LENGTH FROM"
                + " information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME = ?")) {
            statement.setString(1, table.name());
            try (ResultSet row = statement.executeQuery()) {
                return row.next() ? row.getLong(1) : -1;
            }
        }
    }
}
