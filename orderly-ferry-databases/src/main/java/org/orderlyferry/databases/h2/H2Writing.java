package org.orderlyferry.databases.h2;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.BrokenRule;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.IdentityRestart;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.ReferenceFit;
import org.orderlyferry.databases.dialect.ReferenceRules;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.databases.lane.BatchWriter;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.TextForms;
import org.orderlyferry.record.RecordWriter;

/** How tables and records are put into H2. */
final class H2Writing implements Writing {

    private final H2Dialect dialect;
    private final DefinitionSql sql;

    H2Writing(H2Dialect dialect) {
        this.dialect = dialect;
        this.sql = new DefinitionSql(dialect);
    }

    @Override
    public Adapting adapting(LoadNotes notes) {
        return new H2Adapting(dialect, notes);
    }

    @Override
    public ValueLimit limit(TableName table, ColumnDefinition column, LoadNotes notes) {
        LogicalType type = column.type();
        if (type.name().isText() && type.isSized() && column.enumeration().isEmpty()) {
            return ValueLimit.units(type.size(), H2Dialect.SYSTEM);
        }
        return type.name().isApproximateNumber()
                ? ValueLimit.unsignedZero(table, column.name(), H2Dialect.SYSTEM, notes)
                : ValueLimit.NONE;
    }

    /** As Java's equalsIgnoreCase, by which H2 compares. */
    @Override
    public Optional<TextForms> textForms(Supplier<Session> asking, ColumnDefinition column) {
        return column.collation().isEmpty()
                        && column.sourceType().toUpperCase(Locale.ROOT).contains("IGNORECASE")
                ? Optional.of(texts -> texts.stream().map(H2Writing::caseless).toList())
                : Optional.empty();
    }

    private static String caseless(String text) {
        StringBuilder small = new StringBuilder(text.length());
        text.chars().forEach(c -> small.append(Character.toLowerCase(Character.toUpperCase((char) c))));
        return small.toString();
    }

    @Override
    public RecordWriter writer(Session session, TableDefinition into, TableName shown) throws SQLException {
        List<ColumnDefinition> columns =
                into.columns().stream().filter(c -> c.generation().isEmpty()).toList();
        String names = sql.names(columns.stream().map(ColumnDefinition::name).toList());
        String values = columns.stream()
                .map(c -> c.sourceType().startsWith("JSON") ? "? FORMAT JSON" : "?")
                .collect(Collectors.joining(", "));
        return new BatchWriter(
                session,
                "INSERT INTO " + dialect.quote(into.name()) + " (" + names + ")" + insertClause(into) + " VALUES ("
                        + values + ")",
                into,
                shown,
                true,
                c -> H2Cells.binder(c.type()));
    }

    @Override
    public String insertClause(TableDefinition table) {
        return sql.overriding(table);
    }

    @Override
    public List<String> createStatements(TableDefinition table) {
        List<String> parts = new ArrayList<>();
        for (ColumnDefinition column : table.columns()) {
            parts.add(H2ColumnSql.of(dialect, column));
        }
        // here and not afterwards: H2 orders a table's rows by a key that is there from the start
        table.primaryKey().ifPresent(key -> parts.add(sql.primaryKey(key)));
        List<String> statements = new ArrayList<>();
        statements.add("CREATE TABLE " + dialect.quote(table.name()) + " (\n  " + String.join(",\n  ", parts) + "\n)");
        statements.addAll(sql.comments(table));
        return statements;
    }

    @Override
    public List<String> keyStatements(TableDefinition table) {
        return sql.keysAndIndexes(table);
    }

    @Override
    public Optional<String> temporaryTable() {
        return Optional.of("CREATE LOCAL TEMPORARY TABLE");
    }

    /** Added with the last steps, and checked by a query with the last records. */
    @Override
    public List<String> referenceStatements(TableDefinition table) {
        return List.of();
    }

    @Override
    public Optional<String> brokenReference(Session session, TableDefinition table, TableName shown)
            throws SQLException {
        return new BrokenRule(session).missingReference(table, shown);
    }

    @Override
    public List<String> counterStatements(Session session, TableDefinition table) throws SQLException {
        return IdentityRestart.statements(session, table);
    }

    /** It compares what is of one kind, and no truth value with a number. */
    @Override
    public ReferenceRules references() {
        return ReferenceRules.ALL.to(ReferenceRules.Referred.KEYS);
    }

    @Override
    public boolean canRefer(ColumnDefinition mine, ColumnDefinition its) {
        return ReferenceFit.isOfOneKind(mine.type(), its.type());
    }

    @Override
    public Settling settling() {
        return new H2Settling(dialect);
    }

    @Override
    public boolean rollsBackDefinitions() {
        return false;
    }

    @Override
    public List<String> schemas(Session session) throws SQLException {
        List<String> schemas = new ArrayList<>();
        session.query()
                .each("SELECT SCHEMA_NAME FROM INFORMATION_SCHEMA.SCHEMATA", row -> schemas.add(row.getString(1)));
        return schemas;
    }
}
