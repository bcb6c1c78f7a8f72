package org.orderlyferry.databases.driver;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.dialect.ConnectedSql;
import org.orderlyferry.databases.dialect.DefaultSchema;
import org.orderlyferry.databases.dialect.IdentityRestart;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.ReferenceRules;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.RecordWriter;

/** How tables and records are put into a system whose SQL is known, by its driver. */
final class KnownWriting extends DriverWriting {

    private final ConnectedSql known;

    KnownWriting(DriverDialect dialect, ConnectedSql known) {
        super(dialect);
        this.known = known;
    }

    @Override
    public Adapting adapting(LoadNotes notes) {
        return known.adapting(notes);
    }

    @Override
    public ValueLimit limit(TableName table, ColumnDefinition column, LoadNotes notes) {
        ValueLimit tried = super.limit(table, column, notes);
        return known.defining().limit(table, column, notes).and(tried);
    }

    @Override
    public RecordWriter writer(Session session, TableDefinition into, TableName shown) throws SQLException {
        List<String> before = known.scripting().beforeRecords(into);
        for (String statement : before) {
            session.execute(statement);
        }
        RecordWriter writer = super.writer(session, into, shown);
        return before.isEmpty()
                ? writer
                : new SurroundedWriter(writer, session, known.scripting().afterRecords(into), shown);
    }

    @Override
    CellBinder binder(LogicalType type) {
        return known.binder(type).orElseGet(() -> super.binder(type));
    }

    @Override
    int nullCode(LogicalType type) {
        return known.nullCode(type, super.nullCode(type));
    }

    @Override
    public List<String> createStatements(TableDefinition table) {
        String schema = new DefaultSchema(dialect.traits().schema()).of(table.name());
        TableName whole = new TableName(schema, table.name().name());
        return known.defining().createStatements(table.toBuilder().name(whole).build());
    }

    @Override
    public List<String> counterStatements(Session session, TableDefinition table) throws SQLException {
        List<String> statements = new ArrayList<>();
        for (ColumnDefinition column : table.columns()) {
            if (column.identity().isPresent()) {
                long next = IdentityRestart.next(session, table, column);
                statements.addAll(known.scripting().counter(table, column, next));
            }
        }
        return statements;
    }

    @Override
    public boolean canRefer(ColumnDefinition mine, ColumnDefinition its) {
        return known.defining().canRefer(mine, its);
    }

    @Override
    public ReferenceRules references() {
        return known.defining().references();
    }

    @Override
    public Settling settling() {
        return new KnownSettling(dialect, known);
    }

    @Override
    public String lengthOf(String text) {
        return known.lengthOf(text);
    }
}
