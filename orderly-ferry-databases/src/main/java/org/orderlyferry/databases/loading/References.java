package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.dialect.BrokenRule;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** What refers to tables that stay while records come to them and go out of them. */
final class References {

    /** A reference of a table. */
    private record Reference(TableName of, ForeignKey key) {}

    private final Session session;
    private final List<Reference> all;
    private final Map<Reference, Long> broken = new LinkedHashMap<>();

    private References(Session session, List<Reference> all) {
        this.session = session;
        this.all = all;
    }

    /**
     * The references by which a load may leave others with nothing to refer to.
     *
     * @param going tables that records go out of
     * @param merged tables of which values may change
     */
    static References to(Session session, Set<TableName> going, List<TableDefinition> merged) throws SQLException {
        List<TableDefinition> changing =
                merged.stream().filter(t -> hasMoreThanItsKey(t)).toList();
        List<Reference> all = new ArrayList<>();
        if (!going.isEmpty() || !changing.isEmpty()) {
            Set<TableName> own = Ledger.own(session);
            Catalogue catalogue = session.catalogue();
            Set<TableName> to = new HashSet<>(going);
            changing.forEach(t -> to.add(t.name()));
            for (TableName table : catalogue.referrers(to)) {
                if (!own.contains(table)) {
                    catalogue.define(table).foreignKeys().stream()
                            .filter(k -> going.contains(k.target()) || mayChange(k, changing))
                            .forEach(k -> all.add(new Reference(table, k)));
                }
            }
        }
        return new References(session, all);
    }

    /** A merge goes by the primary key, which stays as it is; others may refer to what else is unique. */
    private static boolean hasMoreThanItsKey(TableDefinition table) {
        return !table.uniqueKeys().isEmpty() || !table.indexes().isEmpty();
    }

    private static boolean mayChange(ForeignKey key, List<TableDefinition> changing) {
        return changing.stream()
                .filter(t -> t.name().equals(key.target()))
                .anyMatch(
                        t -> !t.primaryKey().map(Key::columns).orElse(List.of()).containsAll(key.targetColumns()));
    }

    /** Whether nothing else goes or changes when records of a table go. */
    boolean nothingGoesWith(TableName table) {
        return all.stream()
                .filter(r -> r.key().target().equals(table))
                .map(r -> r.key().onDelete())
                .allMatch(a -> a == ReferentialAction.NO_ACTION || a == ReferentialAction.RESTRICT);
    }

    /**
     * Counts the records that refer to nothing already: these are no concern of the load's.
     *
     * @param looked tables whose own references are looked at anyway
     */
    void count(Set<TableName> looked) throws SQLException {
        BrokenRule rule = new BrokenRule(session);
        for (Reference reference : all) {
            if (!looked.contains(reference.of())) {
                broken.put(reference, rule.missingReferences(reference.of(), reference.key()));
            }
        }
    }

    /** Finds a record that refers to nothing and did to something when they were counted, as a sentence. */
    Optional<String> lost() throws SQLException {
        BrokenRule rule = new BrokenRule(session);
        for (Map.Entry<Reference, Long> counted : broken.entrySet()) {
            Reference reference = counted.getKey();
            long more = rule.missingReferences(reference.of(), reference.key()) - counted.getValue();
            if (more > 0) {
                return counted.getValue() > 0
                        ? Optional.of(
                                "table " + reference.of() + " has " + more + " more record" + (more == 1 ? "" : "s")
                                        + " than before that would refer to a record of "
                                        + reference.key().target() + " that isn't there any more")
                        : rule.lostReference(reference.of(), reference.key());
            }
        }
        return Optional.empty();
    }
}
