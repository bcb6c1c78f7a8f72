package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** The end of a load: tables that were loaded beside others take their places, or their records go where they belong. */
final class Settlement {

    private final Session session;
    private final Writing writing;
    private final Settling settling;
    private final Ledger ledger;
    private final LoadPlan plan;
    private final Map<TableName, TableDefinition> loaded;
    private final StayingTables staying;
    private Optional<String> keep = Optional.empty();

    /**
     * The end of a planned load.
     *
     * @param loaded the tables as they are on their way, by their names at the source
     */
    Settlement(Session session, Ledger ledger, LoadPlan plan, Map<TableName, TableDefinition> loaded) {
        this.session = session;
        this.writing = session.dialect().writing();
        this.settling = writing.settling();
        this.ledger = ledger;
        this.plan = plan;
        this.loaded = loaded;
        this.staying = new StayingTables(session, plan);
    }

    StayingTables staying() {
        return staying;
    }

    /** Has the tables that are replaced kept by a name. */
    void keepReplaced(String name) {
        if (!settling.keepsReplaced()) {
            throw new UnsupportedOperationException(session.dialect().system() + " keeps no tables that are replaced");
        }
        keep = Optional.of(name);
    }

    /**
     * Brings the load to its end.
     *
     * @param whenLasting told when there is no way back any more; what comes after it only clears away
     */
    void run(Runnable whenLasting) throws SQLException {
        if (writing.isOneTransaction()) {
            inOneTransaction();
        } else if (writing.rollsBackDefinitions()) {
            together();
        } else {
            stepByStep(whenLasting);
            return;
        }
        whenLasting.run();
    }

    /** Whether the keys that a killed load has added can be told from those that are missing. */
    boolean knowsItsKeys() throws SQLException {
        Map<TableName, Integer> begun = ledger.keysBegun();
        for (Arrival arrival : newTables()) {
            TableDefinition table = loaded.get(arrival.source());
            if (begun.containsKey(table.name())
                    && KeysBegun.done(session, table, begun.get(table.name())).isEmpty()) {
                return false;
            }
        }
        return true;
    }

    /**
     * Adds keys and indexes, which may take long, before anybody sees the tables.
     *
     * @param again whether a load that was killed may have added some of them
     */
    void addKeys(boolean again) throws SQLException {
        if (writing.isOneTransaction()) {
            // its indexes' names are the database's, so its tables take their names first
            return;
        }
        Map<TableName, Integer> begun = again ? ledger.keysBegun() : Map.of();
        ledger.note(new Deed.Settled());
        for (Arrival arrival : newTables()) {
            TableDefinition table = loaded.get(arrival.source());
            List<String> statements = writing.keyStatements(table);
            int first = begun.containsKey(table.name())
                    ? KeysBegun.done(session, table, begun.get(table.name())).orElseThrow()
                    : 0;
            for (int i = first; i < statements.size(); i++) {
                try {
                    ledger.addKey(new Deed.KeyBegun(table.name(), i), statements.get(i));
                } catch (SQLException e) {
                    if (session.isCancelled() || session.dialect().isLost(e)) {
                        throw e;
                    }
                    throw new SQLException(
                            e.getMessage() + "; a key or an index that can't be made can be left behind by its name",
                            e.getSQLState(),
                            e.getErrorCode(),
                            e);
                }
            }
        }
    }

    /** SQLite: tables take their names first, since its indexes' names are the database's. */
    private void inOneTransaction() throws SQLException {
        checkReferrers();
        takePlaces();
        for (Arrival arrival : newTables()) {
            all(writing.keyStatements(arrival.table()));
        }
        staying.run();
        clear();
        checkReferences();
        for (Arrival arrival : plan.arrivals()) {
            all(writing.counterStatements(session, arrival.table()));
        }
        session.connection().commit();
    }

    /** PostgreSQL: all that can be seen from outside happens in one moment. */
    private void together() throws SQLException {
        takePlaces();
        // as they are defined, and not as they are loosened
        List<Settling.SetAside> aside = settling.setAside(session, staying.arrivals(), staying.losing());
        all(aside.stream().map(Settling.SetAside::drop).toList());
        for (Settling.Step step : settling.loosen(session, staying.arrivals())) {
            session.execute(step.sql());
        }
        staying.run();
        for (Arrival arrival : newTables()) {
            all(writing.referenceStatements(arrival.table()));
        }
        all(settling.tighten(session, staying.arrivals()));
        for (Settling.SetAside reference : aside) {
            all(reference.add());
        }
        for (Arrival arrival : plan.arrivals()) {
            all(writing.counterStatements(session, arrival.table()));
        }
        clear();
        Receipts.drop(session);
        ledger.drop();
        session.connection().commit();
    }

    private void takePlaces() throws SQLException {
        List<Arrival> arrivals = keep.isPresent() ? KeptAside.keeping(session, keep.get(), newTables()) : newTables();
        for (Settling.Step step : settling.takePlaces(session, arrivals)) {
            session.execute(step.sql());
        }
    }

    /** MariaDB and H2: each definition is a step with an undoing; records come in one transaction at the end. */
    private void stepByStep(Runnable whenLasting) throws SQLException {
        for (Arrival arrival : newTables()) {
            all(writing.counterStatements(session, loaded.get(arrival.source())));
        }
        session.connection().commit();
        checkReferrers();
        for (Settling.Step step : settling.takePlaces(session, newTables())) {
            ledger.step(step);
        }
        for (Settling.Step step : settling.loosen(session, staying.arrivals())) {
            ledger.step(step);
        }
        session.connection().commit();
        staying.run();
        checkReferences();
        List<Deed> left = new ArrayList<>(settling.leftovers(plan.arrivals()));
        left.add(new Deed.TableMade(ReservedNames.RECEIPTS));
        staying.arrivals().forEach(a -> left.add(new Deed.CounterBehind(a.name(), Counters.next(a.table()))));
        ledger.replace(left);
        session.connection().commit();
        whenLasting.run();
        for (Deed deed : left) {
            ledger.remedy(deed);
        }
        ledger.close();
    }

    private void all(List<String> statements) throws SQLException {
        for (String sql : statements) {
            session.execute(sql);
        }
    }

    private void clear() throws SQLException {
        for (Deed deed : settling.leftovers(plan.arrivals())) {
            all(settling.remedy(session, deed));
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

    /** While both tables are there: afterwards nobody could tell what had referred to nothing before. */
    private void checkReferrers() throws SQLException {
        Optional<String> lost = Referrers.lostRecord(session, plan.arrivals());
        if (lost.isPresent()) {
            throw new SQLException(lost.get());
        }
    }

    private List<Arrival> newTables() {
        return plan.arrivals().stream().filter(Arrival::isNewTable).toList();
    }
}
