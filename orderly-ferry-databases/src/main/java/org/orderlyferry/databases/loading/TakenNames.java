package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TableName;

/** Names that no table of a user's can have. */
final class TakenNames {

    private TakenNames() {}

    /**
     * What is against the names of tables, as sentences: tables of users under names of ours could be taken for ours, and go;
     * and what is no table has its name for itself.
     *
     * @param there the target's tables
     */
    static List<String> refusals(Session session, Collection<TableName> there, Collection<TableName> names)
            throws SQLException {
        Map<TableName, String> others = session.catalogue().otherNames();
        boolean keeps = session.dialect().writing().settling().keepsReplaced();
        List<String> refusals = new ArrayList<>();
        for (TableName name : names) {
            if (ReservedNames.isReserved(name.name())) {
                refusals.add("the name " + name + " is one that a load gives to its own tables on their way;"
                        + " load it under another");
            } else if (keeps && ReservedNames.isReservedSchema(name.schema())) {
                refusals.add(
                        "the name " + name + " has a schema in which tables are kept that runs have replaced, so that"
                                + " nobody would see it; load it under another");
            } else if (!there.contains(name) && others.containsKey(name)) {
                refusals.add("the name " + name + " is taken by " + others.get(name) + ", which stays as it is");
            }
        }
        return refusals;
    }
}
