package org.orderlyferry.databases.place;

import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.PlaceException;

/**
 * Sees to it that all slices by where records stand are read of tables whose records stand where they did for the first of
 * them: a state that is kept keeps what records say, and not where they are. Safe for use by several threads.
 */
final class StandingTables {

    private final Map<TableName, String> files = new ConcurrentHashMap<>();

    /**
     * Before a slice is read by a session, in the transaction in which it is.
     *
     * @throws PlaceException if somebody has put the table's records elsewhere since another slice of it was read
     */
    void check(Session session, Slice slice) {
        if (!slice.range().standing()) {
            return;
        }
        TableName table = slice.table();
        Optional<String> file = session.work(
                "where table " + table + " stands can't be told",
                () -> session.dialect().reading().standingIn(session, table));
        file.map(now -> files.putIfAbsent(table, now))
                .filter(then -> !then.equals(file.get()))
                .ifPresent(then -> {
                    throw new PlaceException(
                            session.address(),
                            "table " + table
                                    + " was written anew while it was read by its blocks, as VACUUM FULL and CLUSTER"
                                    + " do; another try cuts it again",
                            null);
                });
    }
}
