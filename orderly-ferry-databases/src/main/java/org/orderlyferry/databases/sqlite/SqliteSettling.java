package org.orderlyferry.databases.sqlite;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;

/**
 * How tables take their places in SQLite. Views and references of other tables go by a table's name, and stay; triggers
 * are made anew.
 */
final class SqliteSettling implements Settling {

    private final SqliteDialect dialect;

    SqliteSettling(SqliteDialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public Optional<String> lettingReferencesWait() {
        return Optional.of("PRAGMA defer_foreign_keys = ON");
    }

    @Override
    public boolean mergesUnheeded() {
        return true;
    }

    /** Within a transaction it does nothing. */
    @Override
    public void heed(Session session, boolean on) throws SQLException {
        session.connection().rollback();
        session.connection().setAutoCommit(true);
        session.execute("PRAGMA foreign_keys = " + (on ? "ON" : "OFF"));
        session.connection().setAutoCommit(false);
        if (on) {
            // records of one table may refer to each other
            session.execute("PRAGMA defer_foreign_keys = ON");
        }
    }

    @Override
    public TableDefinition whileLoaded(Arrival arrival) {
        return arrival.table().toBuilder().name(arrival.loaded()).build();
    }

    @Override
    public List<Step> takePlaces(Session session, List<Arrival> arrivals) throws SQLException {
        List<Step> steps = new ArrayList<>();
        for (Arrival arrival : arrivals) {
            if (arrival.there().isEmpty()) {
                continue;
            }
            String name = dialect.quote(arrival.name());
            List<String> triggers = new ArrayList<>();
            session.query()
                    .each(
                            "SELECT sql FROM sqlite_schema WHERE type = 'trigger' AND tbl_name = ? ORDER BY rowid",
                            row -> triggers.add(row.getString(1)),
                            arrival.name().name());
            steps.add(Step.of("DROP TABLE " + name));
            // else it would write the new name into what refers to the old one
            steps.add(Step.of("PRAGMA legacy_alter_table = ON"));
            steps.add(Step.of("ALTER TABLE " + dialect.quote(arrival.loaded()) + " RENAME TO " + name));
            steps.add(Step.of("PRAGMA legacy_alter_table = OFF"));
            triggers.forEach(t -> steps.add(Step.of(t)));
        }
        return steps;
    }

    @Override
    public List<Deed> leftovers(List<Arrival> arrivals) {
        return arrivals.stream()
                .filter(a -> !a.isNewTable() && !a.loaded().equals(a.name()))
                .map(a -> (Deed) new Deed.TableMade(a.loaded()))
                .toList();
    }

    /** The driver counts what triggers changed as well. */
    @Override
    public long changed(Session session, String sql) throws SQLException {
        session.update(sql);
        return Long.parseLong(session.value("SELECT changes()").orElse("0"));
    }

    /** By the bytes of texts, since a column's collation may take two spellings for the same. */
    @Override
    public String differ(ColumnDefinition column, String one, String other) {
        return one + " COLLATE BINARY IS NOT " + other + " COLLATE BINARY";
    }

    @Override
    public String update(Session session, Arrival arrival, String keys, String differ, List<ColumnDefinition> set) {
        return "UPDATE " + dialect.quote(arrival.name()) + " AS t SET "
                + set.stream()
                        .map(c -> dialect.quote(c.name()) + " = s." + dialect.quote(c.name()))
                        .collect(Collectors.joining(", "))
                + " FROM " + dialect.quote(arrival.loaded()) + " AS s WHERE " + keys + " AND " + differ;
    }
}
