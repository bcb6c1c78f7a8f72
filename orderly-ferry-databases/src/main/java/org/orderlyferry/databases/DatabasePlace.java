package org.orderlyferry.databases;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Query;
import org.orderlyferry.place.QueryPlace;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;
import org.slf4j.LoggerFactory;

/** A database as a place, over one connection. */
final class DatabasePlace implements QueryPlace, TargetPlace {

    /** A database file and those that SQLite puts beside it; a journal left behind would spoil the next database. */
    private static final List<String> FILE_ENDINGS = List.of("", "-journal", "-wal", "-shm");

    private final String address;
    private final Dialect dialect;
    private final Connection connection;
    private final Ledger ledger;
    private final Map<TableName, TableDefinition> defined = new HashMap<>();
    private final Optional<Path> newFile;
    private List<TableName> tables;
    private boolean loaded;

    /**
     * A database behind an open connection.
     *
     * @param newFile the database's file, where opening it made it; it goes again if nothing is loaded
     */
    DatabasePlace(String address, Dialect dialect, Connection connection, boolean write, Optional<Path> newFile)
            throws SQLException {
        this.address = address;
        this.newFile = newFile;
        this.dialect = dialect;
        this.connection = connection;
        this.ledger = new Ledger(dialect, connection);
        connection.setAutoCommit(false);
        if (!write) {
            dialect.prepareReading(connection);
        }
    }

    /** Something to be done with the connection. */
    private interface Work<T> {
        T doIt() throws SQLException;
    }

    private <T> T work(String what, Work<T> work) {
        try {
            return work.doIt();
        } catch (SQLException e) {
            throw failed(what, e);
        }
    }

    PlaceException failed(String what, SQLException e) {
        return new PlaceException(address, what + ": " + dialect.explain(e).orElseGet(e::getMessage), e);
    }

    @Override
    public String address() {
        return address;
    }

    @Override
    public String system() {
        return work(
                "the version can't be read",
                () -> dialect.system() + " "
                        + connection.getMetaData().getDatabaseProductVersion().split(" ")[0]);
    }

    @Override
    public List<TableName> tables() {
        if (tables == null) {
            tables = work("its tables can't be listed", () -> dialect.catalogue(connection)
                            .tables())
                    .stream()
                    .filter(t -> !ledger.isLedger(t))
                    .sorted()
                    .toList();
        }
        return tables;
    }

    @Override
    public TableDefinition define(TableName table) {
        if (!tables().contains(table)) {
            throw new UsageException("there is no table " + table + " in " + address);
        }
        return defined.computeIfAbsent(
                table,
                t -> work("the definition of table " + t + " can't be read", () -> dialect.catalogue(connection)
                        .define(t)));
    }

    @Override
    public long count(TableName table) {
        return work("table " + table + " can't be counted", () -> {
            try (Statement statement = connection.createStatement();
                    ResultSet result = statement.executeQuery("SELECT COUNT(*) FROM " + dialect.quote(table))) {
                result.next();
                return result.getLong(1);
            }
        });
    }

    @Override
    public OptionalLong bytes(TableName table) {
        long bytes = work("the size of table " + table + " can't be read", () -> dialect.bytes(connection, table));
        return bytes < 0 ? OptionalLong.empty() : OptionalLong.of(bytes);
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return work("its views and triggers can't be listed", () -> {
            List<LeftBehind> all =
                    new java.util.ArrayList<>(dialect.catalogue(connection).leftBehind());
            ledger.unfinished()
                    .forEach(t -> all.add(new LeftBehind(
                            "unfinished table",
                            t,
                            "a load that was killed left it incomplete; load again to replace it")));
            return all;
        });
    }

    @Override
    public RecordReader read(Slice slice) {
        TableDefinition table = define(slice.table()).withColumns(slice.columns());
        String list = table.columns().stream().map(dialect::selected).collect(Collectors.joining(", "));
        // a table of which no column is wanted still has a number of records
        String sql = "SELECT " + (list.isEmpty() ? "1" : list) + " FROM " + dialect.quote(slice.table());
        return reader(sql, table);
    }

    private RecordReader reader(String sql, TableDefinition table) {
        return work(
                "table " + table.name() + " can't be read",
                () -> new ResultReader(this, dialect, connection, sql, table));
    }

    @Override
    public TableDefinition define(Query query) {
        return work("the query " + query.name() + " can't be used", () -> {
            try (Statement statement = connection.createStatement()) {
                statement.setMaxRows(1);
                try (ResultSet result = statement.executeQuery(query.sql())) {
                    return queried(query, result.getMetaData());
                }
            }
        });
    }

    private TableDefinition queried(Query query, ResultSetMetaData columns) throws SQLException {
        TableDefinition.Builder table = TableDefinition.named(query.name());
        java.util.Set<String> names = new java.util.HashSet<>();
        for (int i = 1; i <= columns.getColumnCount(); i++) {
            String name = columns.getColumnLabel(i);
            if (!names.add(name)) {
                throw new UsageException(
                        "the query " + query.name() + " gives two columns named " + name + "; name one with AS");
            }
            table.column(ColumnDefinition.of(name, dialect.queried(columns, i)));
        }
        return table.build();
    }

    @Override
    public RecordReader read(Query query) {
        return reader(query.sql(), define(query));
    }

    @Override
    public Loading begin(List<TableDefinition> wanted) {
        tables = null;
        defined.clear();
        return work("the tables can't be made", () -> DatabaseLoading.begin(this, dialect, connection, ledger, wanted));
    }

    @Override
    public void close() {
        work("the connection can't be closed", () -> {
            if (!connection.isClosed()) {
                rollback();
                connection.close();
            }
            return null;
        });
        if (!loaded && newFile.isPresent()) {
            try {
                for (String ending : FILE_ENDINGS) {
                    Files.deleteIfExists(
                            newFile.get().resolveSibling(newFile.get().getFileName() + ending));
                }
            } catch (IOException e) {
                throw new PlaceException(address, "was made for nothing and can't be removed: " + e.getMessage(), e);
            }
        }
    }

    /** Rolls back where there is something to: a system that has failed may have done so itself. */
    void rollback() {
        try {
            connection.rollback();
        } catch (SQLException e) {
            LoggerFactory.getLogger(DatabasePlace.class).debug("nothing to roll back in {}", address, e);
        }
    }

    /** Something was loaded to stay. */
    void loaded() {
        loaded = true;
    }
}
