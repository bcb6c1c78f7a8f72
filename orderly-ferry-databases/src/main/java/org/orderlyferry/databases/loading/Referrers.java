package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.BrokenRule;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** Tables that stay, and what they refer to in tables that are replaced. */
final class Referrers {

    private Referrers() {}

    /**
     * References that would have nothing to refer to any more, as sentences.
     *
     * @param arrivals all tables of a load; those that replace each other's like bring references of their own
     */
    static List<String> lostColumns(Session session, List<Arrival> arrivals) throws SQLException {
        Map<TableName, Arrival> replacing = new LinkedHashMap<>();
        arrivals.stream().filter(a -> a.isNewTable() && a.there().isPresent()).forEach(a -> replacing.put(a.name(), a));
        List<String> lost = new ArrayList<>();
        if (replacing.isEmpty()) {
            return lost;
        }
        Catalogue catalogue = session.catalogue();
        Set<TableName> own = Ledger.own(session);
        for (TableName other : catalogue.referrers(replacing.keySet())) {
            if (own.contains(other) || replacing.containsKey(other)) {
                continue;
            }
            for (ForeignKey key : catalogue.define(other).foreignKeys()) {
                Arrival arrival = replacing.get(key.target());
                if (arrival != null) {
                    lost(session, other, key, arrival, lost);
                }
            }
        }
        return lost;
    }

    /**
     * A record that refers to one that is there and doesn't come again, as a sentence. What had nothing to refer to before is
     * no concern of the load's.
     *
     * @param arrivals all tables of a load, none of which has taken its place yet
     */
    static Optional<String> lostRecord(Session session, List<Arrival> arrivals) throws SQLException {
        Map<TableName, Arrival> replacing = new LinkedHashMap<>();
        arrivals.stream().filter(a -> a.isNewTable() && a.there().isPresent()).forEach(a -> replacing.put(a.name(), a));
        if (replacing.isEmpty()) {
            return Optional.empty();
        }
        Set<TableName> own = Ledger.own(session);
        BrokenRule broken = new BrokenRule(session);
        Catalogue catalogue = session.catalogue();
        for (TableName other : catalogue.referrers(replacing.keySet())) {
            boolean comes = own.contains(other)
                    || arrivals.stream()
                            .anyMatch(a -> a.name().equals(other) || a.loaded().equals(other));
            if (comes) {
                continue;
            }
            for (ForeignKey key : catalogue.define(other).foreignKeys()) {
                Arrival arrival = replacing.get(key.target());
                if (arrival != null) {
                    Optional<String> found = broken.lostReference(other, key, arrival.loaded());
                    if (found.isPresent()) {
                        return found;
                    }
                }
            }
        }
        return Optional.empty();
    }

    private static void lost(Session session, TableName other, ForeignKey key, Arrival arrival, List<String> lost) {
        TableDefinition there = arrival.there().orElseThrow();
        for (String target : key.targetColumns()) {
            Optional<ColumnDefinition> mine = there.column(target);
            Optional<ColumnDefinition> next = arrival.table().column(target);
            boolean stands = mine.isPresent()
                    && next.isPresent()
                    && session.dialect().writing().settling().canStandFor(mine.get(), next.get());
            if (!stands) {
                lost.add("table " + there.name() + " can't be replaced: " + other + " refers to its column " + target
                        + ", which is " + type(mine) + " and would become " + type(next));
            }
        }
    }

    private static String type(Optional<ColumnDefinition> column) {
        return column.map(ColumnDefinition::sourceType).orElse("nothing at all");
    }
}
