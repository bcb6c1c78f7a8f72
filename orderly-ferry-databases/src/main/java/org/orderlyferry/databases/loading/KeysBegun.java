package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.OptionalInt;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.model.TableDefinition;

/** How far a load that was killed has come with the keys and indexes of a table on its way. */
final class KeysBegun {

    private KeysBegun() {}

    /**
     * How many of the statements that add them are done.
     *
     * @param table as it is when all of them are there
     * @param last the number of the one that was begun last
     * @return empty if the table has other keys than any such load would have left
     */
    static OptionalInt done(Session session, TableDefinition table, int last) throws SQLException {
        Writing writing = session.dialect().writing();
        int all = writing.keyStatements(table).size();
        if (last < 0 || last >= all) {
            return OptionalInt.empty();
        }
        if (writing.rollsBackDefinitions()) {
            return OptionalInt.of(last + 1);
        }
        if (!session.catalogue().has(table.name())) {
            return OptionalInt.empty();
        }
        // each statement is done or not, and all but the first add one rule
        int behind = all - 1 - last;
        int missing = rules(table) - rules(session.catalogue().define(table.name()));
        if (missing == behind) {
            return OptionalInt.of(last + 1);
        }
        boolean undone = last == 0 ? missing > behind : missing == behind + 1;
        return undone ? OptionalInt.of(last) : OptionalInt.empty();
    }

    private static int rules(TableDefinition table) {
        return (table.primaryKey().isPresent() ? 1 : 0)
                + table.uniqueKeys().size()
                + table.checks().size()
                + table.indexes().size();
    }
}
