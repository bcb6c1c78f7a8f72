package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Removal;

/**
 * Records that go out of tables that stay, in the transaction in which others come. Those whose unique values new records may
 * have got must go before these come, and those that others refer to until then, after them.
 */
final class Removals {

    private final Session session;
    private final Settling settling;
    private final List<Removal> removals;
    private final Map<TableName, Long> gone = new LinkedHashMap<>();
    private final Set<TableName> trees = new HashSet<>();
    private Optional<Following> following = Optional.empty();

    private Removals(Session session, List<Removal> removals) {
        this.session = session;
        this.settling = session.dialect().writing().settling();
        this.removals = removals;
    }

    /**
     * Those of what is asked for that are of a load's tables.
     *
     * @param order the load's tables that stay, what others refer to before these
     */
    static Removals of(Session session, List<Removal> asked, List<TableName> order) {
        return new Removals(
                session,
                asked.stream()
                        .filter(r -> order.contains(r.table()))
                        .sorted(Comparator.comparingInt(r -> order.indexOf(r.table())))
                        .toList());
    }

    static Removals none(Session session) {
        return new Removals(session, List.of());
    }

    Set<TableName> tables() {
        return removals.stream().map(Removal::table).collect(Collectors.toSet());
    }

    /** How many went, of each table. */
    Map<TableName, Long> gone() {
        return Map.copyOf(gone);
    }

    /**
     * Before records come: what nothing else goes or changes with, since that may refer to others when these are in; where nobody
     * looks after references, that as well, and what goes with it then follows in the end.
     */
    void before(References references) throws SQLException {
        if (settling.mergesUnheeded() && !settling.heedsWithin()) {
            following = Following.of(session, references);
        }
        tables().stream().filter(references::followsItself).forEach(trees::add);
        for (Removal removal : removals) {
            if (following.isEmpty() && !references.nothingGoesWith(removal.table())) {
                continue;
            }
            if (settling.mergesUnheeded()) {
                // nobody minds in between, and in the end it is looked whether anything refers to them
                remove(removal);
            } else if (hasUniqueKeys(session.catalogue().define(removal.table()))) {
                tryTo(removal);
            }
        }
    }

    /** Whether some go only when all records are in, though others may have got their unique values. */
    boolean anyWaits() throws SQLException {
        for (Removal removal : waiting()) {
            if (hasUniqueKeys(session.catalogue().define(removal.table()))) {
                return true;
            }
        }
        return false;
    }

    /** All of it before records come, with nobody looking after references, and what goes with it in the end. */
    void first(References references) throws SQLException {
        gone.clear();
        following = Optional.of(Following.of(session, references)
                .orElseThrow(() -> new SQLException("what is to go with records that go can't be told")));
        for (Removal removal : removals) {
            remove(removal);
        }
    }

    /** What hasn't gone, and can go within the load; what refers to others first. */
    private List<Removal> waiting() {
        if (settling.mergesUnheeded() && !settling.heedsWithin()) {
            return List.of();
        }
        List<Removal> left = new ArrayList<>(removals);
        left.removeIf(r -> gone.containsKey(r.table()));
        Collections.reverse(left);
        return left;
    }

    static boolean hasUniqueKeys(TableDefinition table) {
        return !table.uniqueKeys().isEmpty() || table.indexes().stream().anyMatch(IndexDefinition::unique);
    }

    /** Others may refer to them as yet. */
    private void tryTo(Removal removal) throws SQLException {
        Optional<Savepoint> before = session.savepoint();
        if (before.isEmpty()) {
            return;
        }
        try {
            remove(removal);
        } catch (SQLException e) {
            if (!RecordRemoval.breaksRule(session, e)) {
                throw e;
            }
            session.connection().rollback(before.get());
        }
    }

    /** When all records are in. What can't go in this transaction is left. */
    void after() throws SQLException {
        follow();
        List<Removal> left = waiting();
        if (left.isEmpty()) {
            return;
        }
        if (settling.heedsWithin()) {
            settling.heed(session, true);
        }
        for (Removal removal : left) {
            remove(removal);
        }
        if (settling.heedsWithin()) {
            settling.heed(session, false);
        }
    }

    /** Has go or change what follows, where that is done here. */
    void follow() throws SQLException {
        if (following.isPresent()) {
            following.get().run();
        }
    }

    private void remove(Removal removal) throws SQLException {
        // what has gone with others of its table is counted by some systems, and not by others
        boolean counts = trees.contains(removal.table());
        long before = counts ? session.count(removal.table()) : 0;
        long went = new RecordRemoval(session, removal.key()).remove(removal.keys());
        gone.put(removal.table(), counts ? before - session.count(removal.table()) : went);
    }
}
