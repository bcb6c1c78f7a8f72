package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.BrokenRule;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;

/** Finds the record for which a load can't be finished, among those that are on their way and those that are there. */
final class WhatBroke {

    private final Session session;
    private final LoadPlan plan;

    WhatBroke(Session session, LoadPlan plan) {
        this.session = session;
        this.plan = plan;
    }

    /** The first such record, as a sentence. */
    Optional<String> find() throws SQLException {
        List<TableName> there = session.catalogue().tables();
        BrokenRule broken = new BrokenRule(session);
        for (Route route : plan.routes()) {
            Arrival arrival = route.arrival();
            if (!there.contains(arrival.loaded())) {
                continue;
            }
            TableDefinition rules =
                    arrival.isNewTable() ? arrival.table() : withColumnsOf(arrival.table(), route.into());
            Optional<String> found = broken.find(arrival.loaded(), rules, arrival.name());
            if (found.isEmpty()
                    && arrival.mode() == LoadMode.APPEND
                    && !arrival.loaded().equals(arrival.name())) {
                found = broken.taken(arrival.loaded(), rules);
            }
            for (ForeignKey key : rules.foreignKeys()) {
                if (found.isEmpty()) {
                    found = broken.missingReference(
                            arrival.loaded(), key, arrival.name(), holders(key.target(), there));
                }
            }
            if (found.isPresent()) {
                return found;
            }
        }
        boolean beside = plan.arrivals().stream().allMatch(a -> there.contains(a.loaded()));
        return beside ? Referrers.lostRecord(session, plan.arrivals()) : Optional.empty();
    }

    /** Where records of a table are when the load has ended: on the way, or there, or both. */
    private List<TableName> holders(TableName table, List<TableName> there) {
        List<TableName> holders = new ArrayList<>();
        Optional<Arrival> coming =
                plan.arrivals().stream().filter(a -> a.name().equals(table)).findFirst();
        coming.map(Arrival::loaded).filter(there::contains).ifPresent(holders::add);
        if ((coming.isEmpty() || !coming.get().isNewTable()) && there.contains(table)) {
            holders.add(table);
        }
        return holders;
    }

    /** Those rules of a table that speak of nothing but columns that records bring. */
    private static TableDefinition withColumnsOf(TableDefinition rules, TableDefinition records) {
        List<String> columns = records.columnNames();
        return rules.toBuilder()
                .uniqueKeys(rules.uniqueKeys().stream()
                        .filter(k -> columns.containsAll(k.columns()))
                        .toList())
                .foreignKeys(rules.foreignKeys().stream()
                        .filter(k ->
                                columns.containsAll(k.columns()) && !k.target().equals(rules.name()))
                        .toList())
                .checks(columns.containsAll(rules.columnNames()) ? rules.checks() : List.of())
                .build();
    }
}
