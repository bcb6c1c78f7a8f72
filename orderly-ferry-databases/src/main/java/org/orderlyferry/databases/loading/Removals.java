package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
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

    private Removals(Session session, List<Removal> removals) {
        this.session = session;
        this.settling = session.dialect().writing().settling();
        this.removals = removals;
    }

    /**
     * Those of what is asked for that can go with a load.
     *
     * @param order the load's tables that stay, what others refer to before these
     */
    static Removals of(Session session, List<Removal> asked, List<TableName> order, References references) {
        Settling settling = session.dialect().writing().settling();
        boolean all = !settling.mergesUnheeded() || settling.heedsWithin();
        return new Removals(
                session,
                asked.stream()
                        .filter(r -> order.contains(r.table()) && (all || references.nothingGoesWith(r.table())))
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

    /** Before records come: what nothing else goes or changes with, since that may refer to others when these are in. */
    void before(References references) throws SQLException {
        for (Removal removal : removals) {
            if (!references.nothingGoesWith(removal.table())) {
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

    private static boolean hasUniqueKeys(TableDefinition table) {
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

    /** When all records are in; what refers to others goes first. */
    void after() throws SQLException {
        List<Removal> left = new ArrayList<>(removals);
        left.removeIf(r -> gone.containsKey(r.table()));
        if (left.isEmpty()) {
            return;
        }
        Collections.reverse(left);
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

    private void remove(Removal removal) throws SQLException {
        gone.put(removal.table(), new RecordRemoval(session, removal.key()).remove(removal.keys()));
    }
}
