package org.orderlyferry.databases.postgresql;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.OutOfRangeCells;
import org.orderlyferry.databases.dialect.OwnTotals;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.databases.dialect.RecordDigests;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordReader;

/** How records are read out of PostgreSQL. */
final class PostgresReading implements Reading {

    private final PostgresDialect dialect;
    private final SharedMoments moments = new SharedMoments();

    PostgresReading(PostgresDialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public Optional<String> mark(Session session, TableName table, boolean standing) throws SQLException {
        return WriteMark.of(session, table, standing).map(WriteMark::text);
    }

    @Override
    public OptionalLong unwritten(Session session, TableName table, String mark) throws SQLException {
        Optional<WriteMark> then = WriteMark.parse(mark);
        return then.isPresent() ? then.get().unwritten(session, table) : OptionalLong.empty();
    }

    /** Much that isn't text is read as such: addresses, ranges, vectors of words. */
    @Override
    public boolean isPlainText(ColumnDefinition column) {
        String type = column.sourceType().toLowerCase(Locale.ROOT);
        return type.equals("text") || type.startsWith("character") || type.startsWith("varchar");
    }

    @Override
    public void prepare(Connection connection) throws SQLException {
        connection.setReadOnly(true);
        // every statement sees the database as of the first one
        connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
        // a parameter of the URL can make the driver forget it
        try (Statement statement = connection.createStatement()) {
            statement.execute("SET SESSION CHARACTERISTICS AS TRANSACTION READ ONLY");
        }
        connection.commit();
    }

    @Override
    public String selected(ColumnDefinition column) {
        String name = dialect.quote(column.name());
        String own = column.sourceType();
        if (own.equals("inet")) {
            // as it is written everywhere else; its text by a cast has a mask in any case
            return "abbrev(" + name + ")::text";
        }
        return switch (column.type().name()) {
            case ARRAY -> own.equals("inet[]") ? "to_json(" + name + ")::text" : ArrayCells.selected(column, name);
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE, INTERVAL -> name + "::text";
            // an amount of money has the signs of a currency, as the server is set
            case DECIMAL -> name + "::numeric::text";
            default ->
                PostgresTypes.isCarriedAsText(column.sourceType())
                                || column.enumeration().isPresent()
                        ? PostgresTypes.text(column.sourceType(), name)
                        : name;
        };
    }

    @Override
    public Optional<String> selectedOfQuery(ColumnDefinition column) {
        return column.type().name() == TypeName.ARRAY || column.type().name() == TypeName.DECIMAL
                ? Optional.of(selected(column))
                : Optional.empty();
    }

    @Override
    public Optional<RecordReader> bulk(Session session, TableDefinition table, String rest, OutOfRangeCells outOfRange)
            throws SQLException {
        if (table.columns().isEmpty()) {
            return Optional.empty();
        }
        // a database that doesn't know its own encoding may hold bytes that are no text
        boolean encoded = !session.value("SHOW server_encoding").equals(Optional.of("SQL_ASCII"));
        String list = table.columns().stream()
                .map(c -> encoded || !BinaryField.isAnyText(c) ? sent(c) : bytes(c))
                .collect(Collectors.joining(", "));
        return Optional.of(new CopyOutReader(session, table, "SELECT " + list + rest, encoded, outOfRange));
    }

    private String sent(ColumnDefinition column) {
        return BinaryField.hasOwn(column) ? dialect.quote(column.name()) : asText(column);
    }

    /** A text's bytes as they are: the server would end the reading at the first text that is none. */
    private String bytes(ColumnDefinition column) {
        String name = dialect.quote(column.name());
        // as a text, it would lose its blanks
        String text = column.type().name() == TypeName.CHARACTER ? "concat(" + name + ")" : asText(column);
        return "CASE WHEN " + name + " IS NULL THEN NULL ELSE convert_to(" + text + ", 'SQL_ASCII') END";
    }

    private String asText(ColumnDefinition column) {
        String selected = selected(column);
        return selected.endsWith("::text") || column.type().name() == TypeName.ARRAY ? selected : selected + "::text";
    }

    @Override
    public OptionalLong estimate(Session session, TableName table) throws SQLException {
        String name = DefinitionSql.string(dialect.quote(table));
        return session.value("SELECT reltuples::bigint FROM pg_class WHERE oid = " + name
                        + "::regclass AND reltuples > 0" + " AND has_table_privilege(" + name + ", 'SELECT')")
                .map(n -> OptionalLong.of(Long.parseLong(n)))
                .orElse(OptionalLong.empty());
    }

    @Override
    public boolean canCut(ColumnDefinition column) {
        if (isMoney(column)) {
            return false;
        }
        boolean text =
                column.type().name() == TypeName.CLOB && column.sourceType().equals("text");
        return text || Reading.super.canCut(column) || column.type().name() == TypeName.TIMESTAMP_WITH_TIME_ZONE;
    }

    @Override
    public Optional<ColumnDefinition> standing() {
        return Optional.of(HeapBlocks.COLUMN);
    }

    @Override
    public String literal(ColumnDefinition column, String value) {
        return column.equals(HeapBlocks.COLUMN) ? HeapBlocks.literal(value) : Reading.super.literal(column, value);
    }

    @Override
    public Optional<String> standingIn(Session session, TableName table) throws SQLException {
        return HeapBlocks.file(session, table);
    }

    @Override
    public List<String> standings(Session session, TableName table, Optional<ColumnDefinition> key, long slices)
            throws SQLException {
        return HeapBlocks.cut(session, table, key, slices);
    }

    @Override
    public OwnTotals ownTotals(ColumnDefinition column) {
        return isMoney(column) ? OwnTotals.COUNTED : Reading.super.ownTotals(column);
    }

    /** It compares with nothing else, numbers included. */
    private static boolean isMoney(ColumnDefinition column) {
        return column.sourceType().equals("money");
    }

    @Override
    public Optional<RecordDigests> digests() {
        return Optional.of(new PostgresDigests(dialect));
    }

    /** All sessions see the snapshot that the first one has exported. */
    @Override
    public void share(Session first, Supplier<Session> open, int count, LoadNotes notes) throws SQLException {
        for (int i = 0; i < count; i++) {
            moments.share(first, open.get());
        }
    }

    @Override
    public Optional<String> moment(Session first) throws SQLException {
        return Optional.of(moments.told(first));
    }

    @Override
    public void see(Session session, String moment) throws SQLException {
        moments.see(session, moment);
    }

    @Override
    public void lighten(Session session, Supplier<Optional<Session>> keeper) throws SQLException {
        moments.lighten(session, keeper);
    }

    @Override
    public CellReader reader(ColumnDefinition column) {
        return PostgresCells.reader(column.type());
    }

    @Override
    public LogicalType queried(ResultSetMetaData columns, int index) throws SQLException {
        return PostgresTypes.ofQuery(
                columns.getColumnTypeName(index), columns.getPrecision(index), columns.getScale(index));
    }

    @Override
    public long bytes(Connection connection, TableName table) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(
                // of a partitioned table only its partitions take room
                "WITH RECURSIVE t (oid) AS (SELECT ?::regclass::oid UNION ALL SELECT i.inhrelid FROM pg_inherits i"
                        + " JOIN t ON t.oid = i.inhparent JOIN pg_class c ON c.oid = i.inhrelid AND c.relispartition)"
                        + " SELECT sum(pg_total_relation_size(oid)) FROM t")) {
            statement.setString(1, dialect.quote(table));
            try (ResultSet row = statement.executeQuery()) {
                row.next();
                return row.getLong(1);
            }
        }
    }
}
