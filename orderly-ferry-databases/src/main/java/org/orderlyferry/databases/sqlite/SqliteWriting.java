package org.orderlyferry.databases.sqlite;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.BrokenRule;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.IdentityRestart;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.databases.lane.BatchWriter;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.TextForms;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.text.AsciiCase;
import org.orderlyferry.record.text.InvalidValueException;

/** How tables and records are put into SQLite: all in one transaction. */
final class SqliteWriting implements Writing {

    private static final ValueLimit A_NUMBER = (batch, row, column) -> {
        if (batch.bytes()[batch.end(row, column) - 1] == 'N') {
            throw new InvalidValueException("can't be held: SQLite would make a null of it");
        }
    };

    private final SqliteDialect dialect;
    private final DefinitionSql sql;

    SqliteWriting(SqliteDialect dialect) {
        this.dialect = dialect;
        this.sql = new DefinitionSql(dialect);
    }

    @Override
    public Optional<String> trialTable() {
        return Optional.of("CREATE TEMPORARY TABLE");
    }

    @Override
    public Adapting adapting(LoadNotes notes) {
        return new SqliteAdapting(dialect, notes);
    }

    @Override
    public ValueLimit limit(TableName table, ColumnDefinition column, LoadNotes notes) {
        return column.type().name().isApproximateNumber()
                ? A_NUMBER.and(ValueLimit.unsignedZero(table, column.name(), SqliteDialect.SYSTEM, notes))
                : ValueLimit.NONE;
    }

    @Override
    public Optional<TextForms> textForms(Supplier<Session> asking, ColumnDefinition column) {
        return switch (column.collation()) {
            case "NOCASE" ->
                Optional.of(texts -> texts.stream().map(AsciiCase::small).toList());
            case "RTRIM" ->
                Optional.of(texts ->
                        texts.stream().map(t -> t.replaceFirst(" +$", "")).toList());
            default -> Optional.empty();
        };
    }

    @Override
    public RecordWriter writer(Session session, TableDefinition into, TableName shown) throws SQLException {
        // its texts are UTF-8 inside too, as a rule: then no text of Java's has to come in between
        boolean asBytes = session.value("PRAGMA encoding").equals(Optional.of("UTF-8"));
        List<ColumnDefinition> columns =
                into.columns().stream().filter(c -> c.generation().isEmpty()).toList();
        String names = sql.names(columns.stream().map(ColumnDefinition::name).toList());
        String values = columns.stream()
                .map(c -> asBytes && SqliteCellBinders.isText(c.type()) ? "CAST(? AS TEXT)" : "?")
                .collect(Collectors.joining(", "));
        return new BatchWriter(
                session,
                "INSERT INTO " + dialect.quote(into.name()) + " (" + names + ") VALUES (" + values + ")",
                into,
                shown,
                false,
                c -> SqliteCellBinders.of(c.type(), asBytes));
    }

    @Override
    public List<String> createStatements(TableDefinition table) {
        List<String> parts = new ArrayList<>();
        // SQLite adds no key to a table that is there, so all of them stand here
        for (ColumnDefinition column : table.columns()) {
            parts.add(SqliteColumnSql.of(dialect, table, column));
        }
        table.primaryKey()
                .filter(key -> !SqliteColumnSql.hasCounter(table))
                .ifPresent(key -> parts.add(sql.primaryKey(key)));
        table.uniqueKeys().forEach(key -> parts.add(sql.unique(key)));
        table.checks().forEach(check -> parts.add(sql.check(check)));
        table.foreignKeys().forEach(key -> parts.add(sql.foreignKey(key)));
        return List.of("CREATE TABLE " + dialect.quote(table.name()) + " (\n  " + String.join(",\n  ", parts) + "\n)");
    }

    @Override
    public List<String> keyStatements(TableDefinition table) {
        return table.indexes().stream().map(i -> sql.index(table.name(), i)).toList();
    }

    @Override
    public List<String> referenceStatements(TableDefinition table) {
        return List.of();
    }

    @Override
    public Optional<String> brokenReference(Session session, TableDefinition table, TableName shown)
            throws SQLException {
        if (table.foreignKeys().isEmpty() || !isBroken(session, table)) {
            return Optional.empty();
        }
        return new BrokenRule(session)
                .missingReference(table, shown)
                .or(() -> Optional.of("table " + shown + " has a record that refers to one that isn't there"));
    }

    private boolean isBroken(Session session, TableDefinition table) throws SQLException {
        try (Statement statement = session.connection().createStatement();
                ResultSet row =
                        statement.executeQuery("PRAGMA foreign_key_check(" + dialect.quote(table.name()) + ")")) {
            return row.next();
        }
    }

    @Override
    public List<String> counterStatements(Session session, TableDefinition table) throws SQLException {
        List<String> statements = new ArrayList<>();
        for (ColumnDefinition column : table.columns()) {
            if (column.identity().isPresent()
                    && session.value("SELECT 1 FROM sqlite_schema WHERE name = 'sqlite_sequence'")
                            .isPresent()) {
                long last = IdentityRestart.next(session, table, column)
                        - column.identity().get().increment();
                String name = DefinitionSql.string(table.name().name());
                boolean counted = session.value("SELECT seq FROM sqlite_sequence WHERE name = " + name)
                        .isPresent();
                statements.add(
                        counted
                                ? "UPDATE sqlite_sequence SET seq = MAX(seq, " + last + ") WHERE name = " + name
                                : "INSERT INTO sqlite_sequence (seq, name) VALUES (" + last + ", " + name + ")");
            }
        }
        return statements;
    }

    @Override
    public Settling settling() {
        return new SqliteSettling(dialect);
    }

    @Override
    public boolean rollsBackDefinitions() {
        return true;
    }

    @Override
    public boolean isOneTransaction() {
        return true;
    }
}
