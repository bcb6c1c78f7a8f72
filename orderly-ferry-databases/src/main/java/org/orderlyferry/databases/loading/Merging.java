package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.BrokenRule;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Merged;

/** Brings the records of a loaded table into one that stays. */
final class Merging {

    private final Session session;
    private final Settling settling;
    private final Route route;
    private final Arrival arrival;
    private final TableDefinition stays;
    private final boolean unheeded;

    /**
     * For one table.
     *
     * @param unheeded whether nobody looks after references meanwhile
     */
    Merging(Session session, Route route, boolean unheeded) {
        this.unheeded = unheeded;
        this.session = session;
        this.settling = session.dialect().writing().settling();
        this.route = route;
        this.arrival = route.arrival();
        this.stays = arrival.there().orElseThrow();
    }

    /** Does it, as part of the session's transaction. */
    Optional<Merged> run() throws SQLException {
        List<String> columns = written().stream().map(ColumnDefinition::name).toList();
        if (arrival.mode() == LoadMode.APPEND) {
            if (!arrival.loaded().equals(arrival.name())) {
                settling.insert(session, arrival, columns, "");
            }
            return Optional.empty();
        }
        List<String> key = stays.primaryKey().orElseThrow().columns();
        Optional<String> twice = new BrokenRule(session).duplicate(arrival.loaded(), key, arrival.source());
        if (twice.isPresent()) {
            throw new SQLException("the records can't be merged: " + twice.get());
        }
        long all = session.count(arrival.loaded());
        ExchangedValues exchanged = new ExchangedValues(session, arrival, unheeded);
        long again = 0;
        long updated;
        Optional<Savepoint> before = session.savepoint();
        try {
            updated = update(key);
        } catch (SQLException e) {
            if (before.isEmpty() || !RecordRemoval.breaksRule(session, e)) {
                throw e;
            }
            session.connection().rollback(before.get());
            if (!exchanged.canBeTakenOut(columns)) {
                throw e;
            }
            try {
                again = exchanged.takeOut(columns);
                updated = update(key);
            } catch (SQLException second) {
                // the first one says what is wrong; this one, that there is no other way
                e.addSuppressed(second);
                throw e;
            }
        }
        String isNew =
                "NOT EXISTS (SELECT 1 FROM " + session.dialect().quote(stays.name()) + " t WHERE " + same(key) + ")";
        long inserted = settling.insert(session, arrival, columns, " WHERE " + isNew);
        return Optional.of(new Merged(inserted - again, updated + again, all - inserted - updated));
    }

    private long update(List<String> key) throws SQLException {
        // a key that its collation takes for the same becomes what comes
        List<ColumnDefinition> others = written().stream()
                .filter(c -> !key.contains(c.name()) || c.type().name().isText())
                .toList();
        if (others.isEmpty()) {
            return 0;
        }
        String differ = others.stream()
                .map(c -> settling.differ(c, "t." + quote(c), "s." + quote(c)))
                .collect(Collectors.joining(" OR "));
        return settling.changed(session, settling.update(session, arrival, same(key), "(" + differ + ")", others));
    }

    private List<ColumnDefinition> written() {
        return route.into().columns().stream()
                .filter(c -> c.generation().isEmpty())
                .toList();
    }

    private String same(List<String> key) {
        return key.stream()
                .map(c -> "t." + session.dialect().quote(c) + " = s."
                        + session.dialect().quote(c))
                .collect(Collectors.joining(" AND "));
    }

    private String quote(ColumnDefinition column) {
        return session.dialect().quote(column.name());
    }
}
