package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.Removal;

/** Brings a load's records into the tables that stay, and takes out of them what is to go, as part of the session's transaction. */
final class StayingTables {

    /** What is wrong with a record by itself, whatever others are there: a null, a check; ISO/IEC 9075-2 has one code for all. */
    private static final List<String> OF_ONE_RECORD = List.of("23502", "23514");

    private final Session session;
    private final Settling settling;
    private final LoadPlan plan;
    private final Map<TableName, Merged> merged = new HashMap<>();
    private Removals removals;

    StayingTables(Session session, LoadPlan plan) {
        this.session = session;
        this.settling = session.dialect().writing().settling();
        this.plan = plan;
        this.removals = Removals.none(session);
    }

    List<Arrival> arrivals() {
        return plan.arrivals().stream().filter(a -> !a.isNewTable()).toList();
    }

    /** Has records go out when others come, as far as that can be done. */
    void remove(List<Removal> asked) {
        removals = Removals.of(
                session, asked, arrivals().stream().map(Arrival::name).toList());
    }

    /** Which tables records go out of. */
    Set<TableName> losing() {
        return removals.tables();
    }

    /** How many records went, of each table. */
    Map<TableName, Long> removed() {
        return removals.gone();
    }

    /** What a merge did; empty for a table that wasn't merged, or not yet. */
    Optional<Merged> merged(TableName source) {
        return Optional.ofNullable(merged.get(source));
    }

    /**
     * Does it.
     *
     * @throws SQLException also if something would refer to nothing afterwards, or a record went again that has come
     */
    void run() throws SQLException {
        References references = References.to(session, losing(), settling.mergesUnheeded() ? merging() : List.of());
        if (settling.mergesUnheeded()) {
            references.count(plan.arrivals().stream().map(Arrival::name).collect(Collectors.toSet()));
        }
        Optional<Savepoint> before = session.savepoint();
        try {
            removals.before(references);
            bringIn(settling.mergesUnheeded());
        } catch (SQLException e) {
            if (before.isEmpty() || !breaksRuleOfSeveral(e)) {
                throw e;
            }
            session.connection().rollback(before.get());
            references = unheeded(e);
        }
        removals.after();
        Optional<String> lost = references.goneAlong(plan.routes());
        if (lost.isEmpty()) {
            lost = references.lost();
        }
        if (lost.isPresent()) {
            throw new SQLException(lost.get());
        }
    }

    private boolean breaksRuleOfSeveral(SQLException e) {
        return RecordRemoval.breaksRule(session, e)
                && (e.getSQLState() == null || !OF_ONE_RECORD.contains(e.getSQLState()));
    }

    private List<TableDefinition> merging() {
        return arrivals().stream()
                .filter(a -> a.mode() == LoadMode.MERGE)
                .map(a -> a.there().orElseThrow())
                .toList();
    }

    /**
     * Once more, with nobody looking after references: a unique value may pass from one record to another while others are to go
     * with the first, or two may exchange theirs, which no order of statements brings about.
     *
     * @param first what went wrong with the system looking after them
     */
    private References unheeded(SQLException first) throws SQLException {
        try {
            Set<TableName> leaving = new HashSet<>(losing());
            merging().stream().filter(Removals::hasUniqueKeys).forEach(t -> leaving.add(t.name()));
            References references = References.to(session, leaving, merging());
            boolean helps = settling.mergesUnheeded() ? removals.anyWaits() : !references.isEmpty();
            Optional<List<Settling.SetAside>> aside =
                    helps ? settling.setAside(session, references.targets()) : Optional.empty();
            if (aside.isEmpty()) {
                throw first;
            }
            references.count(Set.of());
            for (Settling.SetAside reference : aside.get()) {
                session.execute(reference.drop());
            }
            removals.first(references);
            bringIn(true);
            removals.follow();
            for (String sql : settling.waited()) {
                session.execute(sql);
            }
            for (Settling.SetAside reference : aside.get()) {
                for (String sql : reference.add()) {
                    session.execute(sql);
                }
            }
            return references;
        } catch (SQLException second) {
            if (second != first) {
                // the first one says what is wrong; this one, that there is no other way
                first.addSuppressed(second);
            }
            throw first;
        }
    }

    private void bringIn(boolean unheeded) throws SQLException {
        merged.clear();
        List<Route> routes = new ArrayList<>(plan.routes());
        routes.removeIf(r -> r.arrival().isNewTable());
        for (Route route : routes) {
            new Merging(session, route, unheeded)
                    .run()
                    .ifPresent(m -> merged.put(route.arrival().source(), m));
        }
    }
}
