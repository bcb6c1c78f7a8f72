package org.orderlyferry.databases;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Loading;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordWriter;

/** Tables on their way into a database. */
final class DatabaseLoading implements Loading {

    private final DatabasePlace place;
    private final Dialect dialect;
    private final Connection connection;
    private final Ledger ledger;
    private final LoadNotes notes = new LoadNotes();
    /** By the name at the source; the definition is as the target holds it. */
    private final Map<TableName, TableDefinition> tables = new LinkedHashMap<>();

    private final List<TableName> created = new ArrayList<>();
    private boolean finished;

    private DatabaseLoading(DatabasePlace place, Dialect dialect, Connection connection, Ledger ledger) {
        this.place = place;
        this.dialect = dialect;
        this.connection = connection;
        this.ledger = ledger;
    }

    static DatabaseLoading begin(
            DatabasePlace place, Dialect dialect, Connection connection, Ledger ledger, List<TableDefinition> wanted)
            throws SQLException {
        DatabaseLoading loading = new DatabaseLoading(place, dialect, connection, ledger);
        try {
            loading.removeUnfinished();
            loading.adapt(wanted);
            loading.refuseExisting();
            loading.create();
            return loading;
        } catch (SQLException | RuntimeException e) {
            try {
                loading.close();
            } catch (RuntimeException second) {
                e.addSuppressed(second);
            }
            throw e;
        }
    }

    private void removeUnfinished() throws SQLException {
        List<String> left = ledger.unfinished();
        for (String quoted : left) {
            execute("DROP TABLE IF EXISTS " + quoted + " CASCADE");
        }
        if (!left.isEmpty()) {
            ledger.close();
            notes.finding(
                    TableName.of("(all)"),
                    "",
                    "an earlier load was killed and had left these tables incomplete; they were removed first: "
                            + String.join(", ", left));
        }
    }

    private void adapt(List<TableDefinition> wanted) {
        for (TableDefinition table : wanted) {
            TableDefinition adapted = dialect.adapt(table, notes);
            if (tables.values().stream().anyMatch(t -> t.name().equals(adapted.name()))) {
                throw new UsageException("two tables would both become " + adapted.name() + " in " + place.address());
            }
            tables.put(table.name(), adapted);
        }
        tables.replaceAll((source, table) -> withReachableReferences(table));
    }

    /** References to tables that are neither in this load nor in the target can't be made. */
    private TableDefinition withReachableReferences(TableDefinition table) {
        List<ForeignKey> reachable = new ArrayList<>();
        for (ForeignKey key : table.foreignKeys()) {
            if (tables.values().stream().anyMatch(t -> t.name().equals(key.target()))
                    || place.tables().contains(key.target())) {
                reachable.add(key);
            } else {
                notes.leftBehind(
                        "foreign key",
                        table.name() + "." + (key.name().isEmpty() ? String.join("+", key.columns()) : key.name()),
                        "it refers to " + key.target() + ", which is neither loaded nor there");
            }
        }
        return new TableDefinition(
                table.name(),
                table.columns(),
                table.primaryKey(),
                table.uniqueKeys(),
                reachable,
                table.checks(),
                table.indexes(),
                table.comment());
    }

    private void refuseExisting() {
        List<String> found = new ArrayList<>();
        for (TableDefinition table : tables.values()) {
            if (place.tables().contains(table.name())) {
                found.add(table.name() + " (" + place.count(table.name()) + " records)");
            }
        }
        if (!found.isEmpty()) {
            throw new UsageException("the target " + place.address() + " has "
                    + (found.size() == 1 ? "this table" : "these tables") + " already: " + String.join(", ", found)
                    + "; nothing was changed");
        }
    }

    private void create() throws SQLException {
        ledger.open(tables.values().stream().map(TableDefinition::name).toList());
        for (TableDefinition table : tables.values()) {
            created.add(table.name());
            for (String sql : dialect.createStatements(table, notes)) {
                execute(sql);
            }
        }
    }

    private void execute(String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        } catch (SQLException e) {
            throw new SQLException(
                    dialect.explain(e).orElseGet(e::getMessage) + "; the statement was: " + sql,
                    e.getSQLState(),
                    e.getErrorCode(),
                    e);
        }
    }

    @Override
    public RecordWriter writer(TableName table) {
        TableDefinition target = tables.get(table);
        String columns =
                target.columns().stream().map(c -> dialect.quote(c.name())).collect(Collectors.joining(", "));
        String values = target.columns().stream().map(dialect::placeholder).collect(Collectors.joining(", "));
        String sql = "INSERT INTO " + dialect.quote(target.name()) + " (" + columns + ")" + dialect.insertClause(target)
                + " VALUES (" + values + ")";
        try {
            return new BatchWriter(place, dialect, connection, sql, target, notes);
        } catch (SQLException e) {
            throw place.failed("table " + target.name() + " can't be loaded", e);
        }
    }

    @Override
    public void finish() {
        try {
            for (TableDefinition table : tables.values()) {
                for (String sql : dialect.keyStatements(table)) {
                    execute(sql);
                }
            }
            for (TableDefinition table : tables.values()) {
                for (String sql : dialect.referenceStatements(table)) {
                    execute(sql);
                }
                dialect.advanceCounters(connection, table);
            }
            dialect.checkReferences(connection, List.copyOf(tables.values()));
            ledger.close();
            connection.commit();
            finished = true;
            place.loaded();
        } catch (SQLException e) {
            throw place.failed("the load can't be finished, and the target is as it was before", explained(e));
        }
    }

    private SQLException explained(SQLException e) {
        try {
            return new MissingReference(dialect, connection)
                    .find(tables.values())
                    .map(text -> new SQLException(text, e))
                    .orElse(e);
        } catch (SQLException second) {
            e.addSuppressed(second);
            return e;
        }
    }

    @Override
    public List<Finding> findings() {
        return notes.findings();
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return notes.leftBehind();
    }

    @Override
    public void close() {
        if (finished) {
            return;
        }
        try {
            place.rollback();
            if (!dialect.rollsBackDefinitions() && !created.isEmpty()) {
                for (TableName table : created) {
                    execute("DROP TABLE IF EXISTS " + dialect.quote(table) + " CASCADE");
                }
                ledger.close();
                connection.commit();
            }
        } catch (SQLException e) {
            throw new PlaceException(
                    place.address(),
                    "can't be put back as it was: " + e.getMessage() + "; the tables " + created
                            + " are incomplete and will be removed by the next load",
                    e);
        }
    }
}
