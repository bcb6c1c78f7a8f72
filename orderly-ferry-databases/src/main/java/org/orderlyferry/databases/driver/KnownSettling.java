package org.orderlyferry.databases.driver;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.ConnectedSql;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** How tables take their places in a system whose SQL is known. */
final class KnownSettling extends DriverSettling {

    private final ConnectedSql known;

    KnownSettling(DriverDialect dialect, ConnectedSql known) {
        super(dialect);
        this.known = known;
    }

    @Override
    String renaming(TableName from, TableName to) {
        return known.renaming(from, to.name());
    }

    @Override
    List<String> keys(TableDefinition table) {
        return known.defining().keyStatements(table);
    }

    @Override
    boolean tellsUniqueKeys() {
        return true;
    }

    @Override
    public Optional<String> withoutTransactions(Session session, TableName there) throws SQLException {
        return known.refusing(session.catalogue().define(there));
    }

    @Override
    public Optional<String> unmergeable(TableDefinition there, List<ColumnDefinition> columns) {
        return known.unmergeable(there, columns);
    }

    @Override
    public long insert(Session session, Arrival arrival, List<String> columns, String where) throws SQLException {
        Scripting scripting = known.scripting();
        TableDefinition into = arrival.table().toBuilder().name(arrival.name()).build();
        boolean counted = into.columns().stream().anyMatch(c -> c.identity().isPresent() && columns.contains(c.name()));
        for (String statement : counted ? scripting.beforeRecords(into) : List.<String>of()) {
            session.execute(statement);
        }
        long inserted = super.insert(session, arrival, columns, where);
        for (String statement : counted ? scripting.afterRecords(into) : List.<String>of()) {
            session.execute(statement);
        }
        return inserted;
    }

    @Override
    public String update(Session session, Arrival arrival, String keys, String differ, List<ColumnDefinition> set) {
        return known.update(
                arrival.name(),
                arrival.loaded(),
                keys,
                differ,
                set.stream().map(ColumnDefinition::name).toList());
    }
}
