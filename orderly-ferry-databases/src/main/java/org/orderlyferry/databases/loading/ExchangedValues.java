package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;

/**
 * Records that get a unique value from a merge which another has until it is changed, too: two that exchange their numbers, or
 * a list that is numbered anew. An UPDATE fails at the first of them, since systems look at each record by itself. So they go
 * before, and come again with the new ones.
 */
final class ExchangedValues {

    private final Session session;
    private final Dialect dialect;
    private final Arrival arrival;
    private final TableDefinition stays;
    private final List<String> key;
    private final boolean unheeded;

    ExchangedValues(Session session, Arrival arrival, boolean unheeded) {
        this.unheeded = unheeded;
        this.session = session;
        this.dialect = session.dialect();
        this.arrival = arrival;
        this.stays = arrival.there().orElseThrow();
        this.key = stays.primaryKey().orElseThrow().columns();
    }

    /** Whether nothing is lost when records go and come again. */
    boolean canBeTakenOut(List<String> written) throws SQLException {
        boolean whole = stays.columns().stream()
                .filter(c -> c.generation().isEmpty())
                .map(ColumnDefinition::name)
                .allMatch(written::contains);
        return whole
                && !unique(written).isEmpty()
                && (unheeded
                        || References.to(session, Set.of(stays.name()), List.of())
                                .nothingGoesWith(stays.name()));
    }

    /**
     * Takes them out.
     *
     * @param written the columns that come
     * @return how many come again
     */
    long takeOut(List<String> written) throws SQLException {
        long out = 0;
        String self = dialect.quote(stays.name());
        for (List<String> values : unique(written)) {
            // the server looks them up key by key
            out += dialect.writing()
                    .settling()
                    .changed(
                            session,
                            "DELETE FROM " + self + " WHERE EXISTS (SELECT 1 FROM " + dialect.quote(arrival.loaded())
                                    + " s JOIN " + self + " o ON (" + same(values, "o.", "s.") + ") WHERE "
                                    + same(key, self + ".", "s.") + " AND NOT (" + same(key, "o.", "s.") + "))");
        }
        return out;
    }

    /** Keys and plain indexes, by which the server itself can look the values up. */
    private List<List<String>> unique(List<String> written) {
        Set<List<String>> unique = new HashSet<>();
        stays.uniqueKeys().stream().map(Key::columns).forEach(unique::add);
        stays.indexes().stream()
                .filter(IndexDefinition::unique)
                .filter(IndexDefinition::isPlain)
                .map(IndexDefinition::columns)
                .forEach(unique::add);
        List<List<String>> all = new ArrayList<>(unique);
        all.removeIf(u -> u.isEmpty() || !written.containsAll(u) || key.containsAll(u));
        return all;
    }

    private String same(List<String> columns, String one, String other) {
        return columns.stream()
                .map(c -> one + dialect.quote(c) + " = " + other + dialect.quote(c))
                .collect(Collectors.joining(" AND "));
    }
}
