package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.orderlyferry.databases.Arrival;
import org.orderlyferry.databases.Dialect;
import org.orderlyferry.databases.LoadNotes;
import org.orderlyferry.databases.Session;
import org.orderlyferry.databases.Settling;
import org.orderlyferry.databases.Writing;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadSettings;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Merged;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordWriter;

/**
 * Tables on their way into a database. Records are loaded into tables of other names; at the end these take their
 * places, or their records are brought into the tables that stay. SQLite does all of it in one transaction; elsewhere a
 * {@link Ledger} tells how to undo what was done.
 */
public final class DatabaseLoading implements Loading {

    private final Session session;
    private final Supplier<Session> reconnect;
    private final Dialect dialect;
    private final Writing writing;
    private final Settling settling;
    private final Ledger ledger;
    private final LoadNotes notes;
    private final LoadPlan plan;
    private final Map<TableName, TableDefinition> loaded = new HashMap<>();
    private final Map<TableName, Merged> merged = new HashMap<>();
    private final Runnable whenLasting;
    private boolean begun;
    private boolean lasting;

    private DatabaseLoading(
            Session session, Supplier<Session> reconnect, LoadPlan plan, LoadNotes notes, Runnable whenLasting) {
        this.session = session;
        this.reconnect = reconnect;
        this.dialect = session.dialect();
        this.writing = dialect.writing();
        this.settling = writing.settling();
        this.ledger = new Ledger(session);
        this.plan = plan;
        this.notes = notes;
        this.whenLasting = whenLasting;
    }

    /**
     * Makes ready for tables to be loaded.
     *
     * @param reconnect another connection to the database, for when the first one is lost
     * @param makeMissing whether schemas that aren't there are made
     * @param whenLasting told when what was loaded is there to stay
     */
    public static DatabaseLoading begin(
            Session session,
            Supplier<Session> reconnect,
            List<TableDefinition> wanted,
            LoadSettings settings,
            boolean makeMissing,
            Runnable whenLasting)
            throws SQLException {
        LoadNotes notes = new LoadNotes();
        if (!session.dialect().writing().lock(session)) {
            throw new UsageException("another load into " + session.address() + " is under way; nothing was changed");
        }
        undoKilledLoad(session, notes);
        session.dialect()
                .writing()
                .laneNotice(session)
                .ifPresent(text -> notes.finding(TableName.of("(all)"), "", text));
        LoadPlan plan = LoadPlan.of(session, wanted, settings, notes);
        List<String> missing = plan.missingSchemas();
        if (!missing.isEmpty() && !makeMissing) {
            throw new UsageException(session.address() + " has no schema " + String.join(", ", missing)
                    + "; the option make-missing makes it. Nothing was changed");
        }
        DatabaseLoading loading = new DatabaseLoading(session, reconnect, plan, notes, whenLasting);
        try {
            loading.create(missing);
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

    private static void undoKilledLoad(Session session, LoadNotes notes) throws SQLException {
        if (Ledger.isThere(session)) {
            new Ledger(session).undo();
            notes.finding(
                    TableName.of("(all)"),
                    "",
                    "an earlier load was killed on its way; what it had done was undone first");
        }
    }

    private void create(List<String> missingSchemas) throws SQLException {
        begun = true;
        if (!writing.isOneTransaction()) {
            ledger.open();
        }
        for (String schema : missingSchemas) {
            step("CREATE SCHEMA " + dialect.quote(schema), "DROP SCHEMA " + dialect.quote(schema));
        }
        for (Route route : plan.routes()) {
            Arrival arrival = route.arrival();
            TableDefinition made = arrival.isNewTable() ? onTheWay(arrival) : route.into();
            loaded.put(arrival.source(), made);
            if (!arrival.loaded().equals(arrival.name()) || arrival.isNewTable()) {
                for (Settling.Step type : writing.typeSteps(session, made)) {
                    step(type.sql(), type.undo());
                }
                boolean first = true;
                for (String sql : writing.createStatements(arrival.isNewTable() ? made : withoutKeys(made))) {
                    if (first) {
                        step(sql, "DROP TABLE IF EXISTS " + dialect.quote(arrival.loaded()));
                        first = false;
                    } else {
                        session.execute(sql);
                    }
                }
                commitIfItMay();
            }
        }
    }

    /** A table for a while: the generated columns of the one that stays compute themselves there. */
    private static TableDefinition withoutKeys(TableDefinition table) {
        return table.toBuilder()
                .columns(table.columns().stream()
                        .map(c -> c.toBuilder().generation(Optional.empty()).build())
                        .toList())
                .primaryKey((org.orderlyferry.model.Key) null)
                .build();
    }

    /** A new table as it is on the way; references go to where the tables are on the way. */
    private TableDefinition onTheWay(Arrival arrival) {
        TableDefinition table = settling.whileLoaded(arrival);
        if (writing.isOneTransaction()) {
            return table;
        }
        return table.toBuilder()
                .foreignKeys(table.foreignKeys().stream()
                        .map(k -> k.withTarget(plan.arrivals().stream()
                                .filter(a -> a.isNewTable() && a.name().equals(k.target()))
                                .map(Arrival::loaded)
                                .findFirst()
                                .orElse(k.target())))
                        .toList())
                .build();
    }

    /** Does a step whose undoing is written down first. */
    private void step(String sql, String undo) throws SQLException {
        if (!writing.isOneTransaction() && !undo.isEmpty()) {
            ledger.write(undo);
        }
        session.execute(sql);
        commitIfItMay();
    }

    private void commitIfItMay() throws SQLException {
        if (!writing.isOneTransaction()) {
            session.connection().commit();
        }
    }

    /** Where several may write at once, each does so on a connection of its own, and can be tried again. */
    @Override
    public RecordWriter writer(TableName table) {
        Route route = plan.route(table);
        boolean own = writing.mostLanes() > 1;
        Session lane = own ? reconnect.get() : session;
        try {
            RecordWriter writer = session.work("table " + route.arrival().name() + " can't be loaded", () -> {
                RecordWriter bare =
                        writing.writer(lane, route.into(), route.arrival().name());
                return own ? new LaneWriter(bare, lane) : bare;
            });
            return route.fitted(writer, writing, notes, e -> {
                throw e;
            });
        } catch (RuntimeException e) {
            if (own) {
                lane.close();
            }
            throw e;
        }
    }

    @Override
    public void finish() {
        try {
            if (writing.isOneTransaction()) {
                settleInOneTransaction();
            } else if (writing.rollsBackDefinitions()) {
                addKeys();
                settleTogether();
            } else {
                addKeys();
                settleStepByStep();
            }
            lasting = true;
            whenLasting.run();
        } catch (SQLException e) {
            SQLException reason = explained(e);
            if (lasting) {
                throw session.failed(
                        "all records are in, but what the load had made on its way can't be cleared away; the next load"
                                + " does it",
                        e);
            }
            try {
                close();
            } catch (PlaceException second) {
                PlaceException failure = session.failed("the load can't be finished", reason);
                failure.addSuppressed(second);
                throw failure;
            }
            throw session.failed("the load can't be finished, and the target is as it was before", reason);
        }
    }

    private void addKeys() throws SQLException {
        for (Arrival arrival : newTables()) {
            for (String sql : writing.keyStatements(loaded.get(arrival.source()))) {
                session.execute(sql);
                session.connection().commit();
            }
        }
    }

    /** SQLite: tables take their names first, since its indexes' names are the database's. */
    private void settleInOneTransaction() throws SQLException {
        for (Settling.Step step : settling.takePlaces(session, newTables())) {
            session.execute(step.sql());
        }
        for (Arrival arrival : newTables()) {
            for (String sql : writing.keyStatements(arrival.table())) {
                session.execute(sql);
            }
        }
        merge();
        for (String sql : settling.leftovers(plan.arrivals())) {
            session.execute(sql);
        }
        checkReferences();
        advanceCounters(plan.arrivals(), false);
        session.connection().commit();
    }

    /** PostgreSQL: all that can be seen from outside happens in one moment. */
    private void settleTogether() throws SQLException {
        for (Settling.Step step : settling.takePlaces(session, newTables())) {
            session.execute(step.sql());
        }
        for (Settling.Step step : settling.loosen(session, stayingTables())) {
            session.execute(step.sql());
        }
        merge();
        for (Arrival arrival : newTables()) {
            for (String sql : writing.referenceStatements(arrival.table())) {
                session.execute(sql);
            }
        }
        for (String sql : settling.tighten(session, stayingTables())) {
            session.execute(sql);
        }
        advanceCounters(plan.arrivals(), false);
        for (String sql : settling.leftovers(plan.arrivals())) {
            session.execute(sql);
        }
        ledger.drop();
        session.connection().commit();
    }

    /** MariaDB and H2: each definition is a step with an undoing; records come in one transaction at the end. */
    private void settleStepByStep() throws SQLException {
        advanceCounters(newTables(), true);
        for (Settling.Step step : settling.takePlaces(session, newTables())) {
            step(step.sql(), step.undo());
        }
        for (Settling.Step step : settling.loosen(session, stayingTables())) {
            step(step.sql(), step.undo());
        }
        session.connection().commit();
        merge();
        checkReferences();
        List<String> left = new ArrayList<>(settling.tighten(session, stayingTables()));
        left.addAll(settling.leftovers(plan.arrivals()));
        for (Arrival arrival : stayingTables()) {
            left.addAll(writing.counterStatements(session, arrival.table()));
        }
        ledger.replace(left);
        session.connection().commit();
        lasting = true;
        for (String sql : left) {
            session.execute(sql);
            session.connection().commit();
        }
        ledger.close();
    }

    private void merge() throws SQLException {
        for (Route route : plan.routes()) {
            if (!route.arrival().isNewTable()) {
                new Merging(session, route)
                        .run()
                        .ifPresent(m -> merged.put(route.arrival().source(), m));
            }
        }
    }

    private void checkReferences() throws SQLException {
        for (Arrival arrival : plan.arrivals()) {
            Optional<String> broken = writing.brokenReference(session, arrival.table(), arrival.name());
            if (broken.isPresent()) {
                throw new SQLException(broken.get());
            }
        }
    }

    private void advanceCounters(List<Arrival> arrivals, boolean onTheWay) throws SQLException {
        for (Arrival arrival : arrivals) {
            TableDefinition table = onTheWay ? loaded.get(arrival.source()) : arrival.table();
            for (String sql : writing.counterStatements(session, table)) {
                session.execute(sql);
            }
        }
        if (onTheWay) {
            session.connection().commit();
        }
    }

    private List<Arrival> newTables() {
        return plan.arrivals().stream().filter(Arrival::isNewTable).toList();
    }

    private List<Arrival> stayingTables() {
        return plan.arrivals().stream().filter(a -> !a.isNewTable()).toList();
    }

    /** Says which record it was that broke a rule, where that can be found out. */
    private SQLException explained(SQLException e) {
        if (!writing.isOneTransaction()) {
            session.rollback();
        }
        try {
            return new WhatBroke(session, plan)
                    .find()
                    .map(found -> new SQLException(found, e.getSQLState(), e.getErrorCode(), e))
                    .orElse(e);
        } catch (SQLException second) {
            e.addSuppressed(second);
            return e;
        }
    }

    @Override
    public Optional<Merged> merged(TableName table) {
        return Optional.ofNullable(merged.get(table));
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
        if (lasting || !begun) {
            return;
        }
        begun = false;
        session.rollback();
        if (writing.isOneTransaction()) {
            return;
        }
        try {
            if (session.connection().isValid(1)) {
                undo(session);
            } else {
                try (Session other = reconnect.get()) {
                    undo(other);
                }
            }
        } catch (SQLException | PlaceException e) {
            throw new PlaceException(
                    session.address(),
                    "can't be put back as it was now: " + e.getMessage()
                            + ". Tables of other names than yours may be left there; the next load undoes that first",
                    e);
        }
    }

    private static void undo(Session session) throws SQLException {
        if (Ledger.isThere(session)) {
            new Ledger(session).undo();
        }
    }
}
