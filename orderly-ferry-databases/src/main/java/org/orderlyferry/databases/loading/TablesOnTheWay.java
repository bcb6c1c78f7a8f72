package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** The tables that a load makes for its records, before these take their places. */
final class TablesOnTheWay {

    private final Session session;
    private final Writing writing;
    private final Settling settling;
    private final Ledger ledger;
    private final LoadPlan plan;
    private final Map<TableName, TableDefinition> loaded;

    /**
     * Of a planned load.
     *
     * @param loaded gets the tables as they are made, by their names at the source
     */
    TablesOnTheWay(Session session, Ledger ledger, LoadPlan plan, Map<TableName, TableDefinition> loaded) {
        this.session = session;
        this.writing = session.dialect().writing();
        this.settling = writing.settling();
        this.ledger = ledger;
        this.plan = plan;
        this.loaded = loaded;
    }

    /**
     * Makes them.
     *
     * @param missingSchemas made first
     * @param name what the ledger calls the plan; empty where nothing goes on with the load
     */
    void make(List<String> missingSchemas, String name) throws SQLException {
        if (!writing.isOneTransaction()) {
            ledger.open();
        }
        for (String schema : missingSchemas) {
            ledger.step(
                    new Settling.Step("CREATE SCHEMA " + session.dialect().quote(schema), new Deed.SchemaMade(schema)));
        }
        for (Route route : plan.routes()) {
            Arrival arrival = route.arrival();
            TableDefinition made = made(route);
            loaded.put(arrival.source(), made);
            if (isMade(arrival)) {
                for (Settling.Step type : writing.typeSteps(session, made)) {
                    ledger.step(type);
                }
                List<String> statements =
                        writing.createStatements(arrival.isNewTable() ? made : withoutGeneration(made));
                ledger.step(new Settling.Step(statements.get(0), new Deed.TableMade(arrival.loaded())));
                for (String sql : statements.subList(1, statements.size())) {
                    ledger.step(Settling.Step.of(sql));
                }
            }
        }
        if (!writing.isOneTransaction()) {
            ledger.step(Receipts.making(session));
            if (!name.isEmpty()) {
                ledger.note(new Deed.Planned(name));
            }
        }
    }

    /** Whether the load makes a table for what arrives. */
    static boolean isMade(Arrival arrival) {
        return !arrival.loaded().equals(arrival.name()) || arrival.isNewTable();
    }

    /** The table that records of a route are loaded into. */
    TableDefinition made(Route route) {
        return route.arrival().isNewTable() ? onTheWay(route.arrival()) : route.into();
    }

    /** A table for a while: the generated columns of the one that stays compute themselves there. */
    private static TableDefinition withoutGeneration(TableDefinition table) {
        return table.toBuilder()
                .columns(table.columns().stream()
                        .map(c -> c.toBuilder().generation(Optional.empty()).build())
                        .toList())
                .primaryKey((Key) null)
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

    /**
     * Receipts are believed where they agree with what is there: some records may have been committed before theirs. The
     * table is emptied first, which waits for whatever a killed load's connection still has under way, with its receipt.
     */
    void emptyUnlessReceipted(Arrival arrival) throws SQLException {
        int number = plan.number(arrival.source());
        if (session.count(arrival.loaded()) != Receipts.records(session, number)) {
            if (!ReservedNames.isReserved(arrival.loaded().name())) {
                throw new SQLException("table " + arrival.loaded() + " isn't one that a load has made");
            }
            session.execute(writing.emptying(session, arrival.loaded()));
            Receipts.forget(session, number);
            session.connection().commit();
        }
    }
}
