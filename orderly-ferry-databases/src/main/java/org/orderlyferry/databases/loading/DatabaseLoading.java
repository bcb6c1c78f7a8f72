package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.Removal;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;

/**
 * Tables on their way into a database. Records are loaded into tables of other names; at the end these take their
 * places, or their records are brought into the tables that stay. SQLite does all of it in one transaction; elsewhere a
 * {@link Ledger} tells how to undo what was done.
 */
public final class DatabaseLoading implements Loading {

    private final Session session;
    private final Lanes lanes;
    private final Dialect dialect;
    private final Writing writing;
    private final Ledger ledger;
    private final LoadNotes notes;
    private final LoadPlan plan;
    private final Map<TableName, TableDefinition> loaded = new HashMap<>();
    private final TablesOnTheWay way;
    private final Settlement settlement;
    private final Runnable whenLasting;
    private boolean begun;
    private boolean joined;
    private boolean ending;
    private boolean lasting;

    private DatabaseLoading(
            Session session, Supplier<Session> reconnect, LoadPlan plan, LoadNotes notes, Runnable whenLasting) {
        this.session = session;
        this.lanes = new Lanes(reconnect);
        this.dialect = session.dialect();
        this.writing = dialect.writing();
        this.ledger = new Ledger(session);
        this.plan = plan;
        this.notes = notes;
        this.whenLasting = whenLasting;
        this.way = new TablesOnTheWay(session, ledger, plan, loaded);
        this.settlement = new Settlement(session, ledger, plan, loaded);
        session.wording(plan::plain);
    }

    /**
     * What a load is to do.
     *
     * @param makeMissing whether schemas that aren't there are made
     * @param trusting whether definitions are taken as they are where they go beyond what can be read
     * @param plan names the plan that another load may go on with; empty for none
     */
    public record Wanted(
            List<TableDefinition> tables, LoadModes modes, boolean makeMissing, boolean trusting, String plan) {

        /** What the ledger calls it: what is made differs by whether definitions are trusted. */
        String name() {
            return plan.isEmpty() ? "" : plan + (trusting ? " trusting" : "");
        }
    }

    /**
     * Makes ready for tables to be loaded, or goes on with a load of the same plan.
     *
     * @param reconnect another connection to the database, for when the first one is lost
     * @param whenLasting told when what was loaded is there to stay
     */
    public static DatabaseLoading begin(
            Session session, Supplier<Session> reconnect, Wanted wanted, Runnable whenLasting) throws SQLException {
        LoadNotes notes = new LoadNotes();
        LoadLock.take(session);
        Ledger.refuseStranger(session);
        boolean again = isBegun(session, wanted);
        if (!again) {
            undoKilledLoad(session, notes);
        }
        session.dialect()
                .writing()
                .laneNotice(session)
                .ifPresent(text -> notes.finding(FindingCode.LANE_CHANGED, text));
        LoadPlan plan = LoadPlan.of(session, wanted.tables(), wanted.modes(), wanted.trusting(), notes);
        List<String> missing = plan.missingSchemas();
        if (!missing.isEmpty() && !wanted.makeMissing()) {
            throw new UsageException(session.address() + " has no schema " + String.join(", ", missing)
                    + "; the option make-missing makes it. Nothing was changed");
        }
        DatabaseLoading loading = new DatabaseLoading(session, reconnect, plan, notes, whenLasting);
        if (again && loading.isThere()) {
            loading.takeUp();
            return loading;
        }
        if (again) {
            undoKilledLoad(session, notes);
        }
        try {
            loading.begun = true;
            loading.way.make(missing, wanted.name());
            return loading;
        } catch (SQLException e) {
            loading.closeAfter(e);
            throw e;
        } catch (RuntimeException e) {
            loading.closeAfter(e);
            throw e;
        }
    }

    /**
     * Puts right what a load that was killed has left, unless it was of a plan.
     *
     * @param trusting whether the plan's definitions are taken as they are
     */
    public static Leftover clear(Session session, String plan, boolean trusting) throws SQLException {
        LoadLock.take(session);
        Ledger.refuseStranger(session);
        if (!Ledger.isThere(session)) {
            return Leftover.NONE;
        }
        if (isBegun(session, new Wanted(List.of(), LoadModes.CREATE, false, trusting, plan))) {
            return Leftover.KEPT;
        }
        return new Ledger(session).undo() ? Leftover.UNDONE : Leftover.FINISHED;
    }

    /**
     * Writes parts for a load that was begun by another process and suspended there.
     *
     * @throws UsageException if there is none of this plan
     */
    public static DatabaseLoading join(Session session, Supplier<Session> reconnect, Wanted wanted)
            throws SQLException {
        if (!isBegun(session, wanted)) {
            throw new UsageException("no load into " + session.address() + " was begun by this plan");
        }
        LoadNotes notes = new LoadNotes();
        LoadPlan plan = LoadPlan.of(session, wanted.tables(), wanted.modes(), wanted.trusting(), notes);
        DatabaseLoading loading = new DatabaseLoading(session, reconnect, plan, notes, () -> {});
        plan.routes().forEach(r -> loading.loaded.put(r.arrival().source(), loading.way.made(r)));
        return loading;
    }

    private static boolean isBegun(Session session, Wanted wanted) throws SQLException {
        return !wanted.plan().isEmpty()
                && !session.dialect().writing().isOneTransaction()
                && Ledger.isThere(session)
                && new Ledger(session).isOf(wanted.name());
    }

    /** Whether all tables on the way are there that the plan needs. */
    private boolean isThere() throws SQLException {
        plan.routes().forEach(r -> loaded.put(r.arrival().source(), way.made(r)));
        List<TableName> there = session.catalogue().tables();
        return there.contains(ReservedNames.RECEIPTS)
                && settlement.knowsItsKeys()
                && plan.routes().stream()
                        .map(Route::arrival)
                        .filter(TablesOnTheWay::isMade)
                        .allMatch(a -> there.contains(a.loaded()));
    }

    private void takeUp() throws SQLException {
        begun = true;
        joined = true;
        ledger.takeUp();
        for (Route route : plan.routes()) {
            way.emptyUnlessReceipted(route.arrival());
        }
    }

    private void closeAfter(Exception e) {
        try {
            close();
        } catch (RuntimeException second) {
            e.addSuppressed(second);
        }
    }

    private static void undoKilledLoad(Session session, LoadNotes notes) throws SQLException {
        if (Ledger.isThere(session)) {
            new Ledger(session).undo();
            notes.finding(
                    FindingCode.UNDONE, "an earlier load was killed on its way; what it had done was undone first");
        }
    }

    @Override
    public Optional<Screen> screen(TablePart part) {
        return Optional.of(plan.route(part.table()).screen(writing));
    }

    /** Where several may write at once, each does so on a connection of its own, and can be tried again. */
    @Override
    public RecordWriter writer(TablePart part, Supplier<String> receipt) {
        Route route = plan.route(part.table());
        boolean own = writing.mostLanes() > 1;
        Session lane = own ? lanes.take() : session;
        lane.wording(plan::plain);
        try {
            TableName shown = route.arrival().name();
            RecordWriter bare = session.work(
                    "table " + shown + " can't be loaded", () -> writing.writer(lane, route.into(), shown));
            RecordWriter writer = writing.isOneTransaction()
                    ? bare
                    : new CommittedWriter(
                            bare, lane, lanes, own, shown, part.task(), plan.number(part.table()), receipt);
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
    public Map<Integer, String> receipts() {
        return joined ? session.work("the receipts can't be read", () -> Receipts.all(session)) : Map.of();
    }

    /** By a connection of its own, which sees what others have committed by now. */
    @Override
    public Optional<String> receipt(int task) {
        try (Session now = lanes.fresh()) {
            return now.work("the receipts can't be read", () -> Receipts.one(now, task));
        }
    }

    @Override
    public void suspend() {
        if (writing.isOneTransaction()) {
            Loading.super.suspend();
        }
        begun = false;
        lanes.close();
        session.rollback();
    }

    @Override
    public void delete(List<Removal> removals) {
        settlement.staying().remove(removals);
    }

    @Override
    public void keepReplaced(String name) {
        settlement.keepReplaced(name);
    }

    @Override
    public Map<TableName, Long> deleted() {
        return settlement.staying().removed();
    }

    @Override
    public void settle() {
        lanes.close();
        try {
            settlement.addKeys(joined);
        } catch (SQLException e) {
            if (session.isCancelled() || dialect.isLost(e)) {
                // whoever holds the load may want to leave it as it is
                throw session.failed("keys and indexes can't be added", e);
            }
            putBackAfter(e);
        }
    }

    @Override
    public void finish(Written written) {
        ending = true;
        try {
            settlement.run(this::lasts);
        } catch (SQLException e) {
            if (lasting) {
                throw session.failed(
                        "all records are in, but what the load had made on its way can't be cleared away; the next load"
                                + " does it",
                        e);
            }
            putBackAfter(e);
        }
    }

    private void lasts() {
        lasting = true;
        whenLasting.run();
    }

    private void putBackAfter(SQLException e) {
        SQLException reason = explained(e);
        try {
            close();
        } catch (PlaceException second) {
            PlaceException failure = session.failed("the load can't be finished", reason);
            failure.addSuppressed(second);
            throw failure;
        }
        if (!lasting) {
            throw session.failed("the load can't be finished, and the target is as it was before", reason);
        }
        notes.finding(
                FindingCode.SETTLED_LATE,
                "the connection was lost when the load ended; another one shows that all records are in");
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
        return settlement.staying().merged(table);
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
    public List<LeftBehind> lacking(List<LeftBehind> source) {
        return OwnTypes.without(source, plan);
    }

    @Override
    public void close() {
        lanes.close();
        if (lasting || !begun) {
            return;
        }
        begun = false;
        session.resume();
        session.rollback();
        if (writing.isOneTransaction()) {
            return;
        }
        try {
            if (session.connection().isValid(1)) {
                undo(session);
            } else {
                try (Session other = lanes.fresh()) {
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

    /** At the end, a ledger that is gone, or knows no way back, tells of a commit whose answer was lost. */
    private void undo(Session with) throws SQLException {
        boolean undone = Ledger.isThere(with) && new Ledger(with).undo();
        if (ending && !undone) {
            lasts();
        }
    }
}
