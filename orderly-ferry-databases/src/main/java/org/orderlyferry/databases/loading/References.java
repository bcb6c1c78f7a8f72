package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.BrokenRule;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;

/** What refers to tables that stay while records come to them and go out of them. */
final class References {

    /** A reference of a table. */
    record Reference(TableName of, ForeignKey key) {

        /** Whether records that refer by it go, or change, when what they refer to goes. */
        boolean follows() {
            return key.onDelete().isWriting();
        }
    }

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
        if (going.isEmpty() && changing.isEmpty()) {
            return new References(session, List.of());
        }
        Set<Reference> all = new LinkedHashSet<>();
        Set<TableName> own = Ledger.own(session);
        Catalogue catalogue = session.catalogue();
        Set<TableName> losing = new HashSet<>(going);
        Set<TableName> asked = new HashSet<>();
        Set<TableName> next = new HashSet<>(going);
        changing.forEach(t -> next.add(t.name()));
        while (asked.addAll(next)) {
            for (TableName table : catalogue.referrers(next)) {
                if (!own.contains(table)) {
                    catalogue.define(table).foreignKeys().stream()
                            .filter(k -> losing.contains(k.target()) || mayChange(k, changing))
                            .forEach(k -> all.add(new Reference(table, k)));
                }
            }
            next.clear();
            all.stream()
                    .filter(r -> losing.contains(r.key().target()) && r.key().onDelete() == ReferentialAction.CASCADE)
                    .forEach(r -> next.add(r.of()));
            losing.addAll(next);
        }
        return new References(session, List.copyOf(all));
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
        return all.stream().noneMatch(r -> r.key().target().equals(table) && r.follows());
    }

    /** Whether a table's records go, or change, with others of it. */
    boolean followsItself(TableName table) {
        return all.stream()
                .anyMatch(r ->
                        r.follows() && r.of().equals(table) && r.key().target().equals(table));
    }

    boolean isEmpty() {
        return all.isEmpty();
    }

    /** The tables that they go to. */
    Set<TableName> targets() {
        return all.stream().map(r -> r.key().target()).collect(Collectors.toSet());
    }

    /** Those by which other records go, or change, with records that go. */
    List<Reference> followers() {
        return all.stream().filter(Reference::follows).toList();
    }

    /** Whether a record refers to nothing already, by a reference that has been counted. */
    boolean isBroken(Reference reference) {
        return broken.getOrDefault(reference, 0L) > 0;
    }

    /**
     * Counts the records that refer to nothing already: these are no concern of the load's.
     *
     * @param looked tables whose own references are looked at anyway; those by which something follows are counted all the same
     */
    void count(Set<TableName> looked) throws SQLException {
        BrokenRule rule = new BrokenRule(session);
        for (Reference reference : all) {
            if (!looked.contains(reference.of()) || reference.follows()) {
                broken.put(reference, rule.missingReferences(reference.of(), reference.key()));
            }
        }
    }

    /** Finds a record that has come with the load and went, or lost its reference, with what it refers to; as a sentence. */
    Optional<String> goneAlong(List<Route> routes) throws SQLException {
        for (Reference reference : followers()) {
            for (Route route : routes) {
                Arrival arrival = route.arrival();
                if (arrival.mode() == LoadMode.MERGE
                        && arrival.name().equals(reference.of())
                        && route.into()
                                .columnNames()
                                .containsAll(reference.key().columns())) {
                    Optional<String> gone = new BrokenRule(session)
                            .goneAlong(
                                    arrival.loaded(),
                                    arrival.name(),
                                    reference.key(),
                                    arrival.there()
                                            .flatMap(TableDefinition::primaryKey)
                                            .orElseThrow()
                                            .columns());
                    if (gone.isPresent()) {
                        return gone;
                    }
                }
            }
        }
        return Optional.empty();
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
