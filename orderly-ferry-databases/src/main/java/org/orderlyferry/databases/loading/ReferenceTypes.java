package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.ReferenceFit;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** Gives columns of a load that refer to others the type of these, in systems that need it. */
final class ReferenceTypes {

    private ReferenceTypes() {}

    /** Follows all references, to tables that come and to tables that are there. */
    static void unite(Session session, Map<TableName, Route> routes, LoadNotes notes) throws SQLException {
        List<TableName> there = session.catalogue().tables();
        Map<TableName, TableDefinition> coming = new LinkedHashMap<>();
        routes.forEach((source, route) -> {
            if (route.arrival().isNewTable()) {
                coming.put(source, route.arrival().table());
            }
        });
        ReferenceFit.unite(
                coming,
                notes,
                name -> there.contains(name)
                        ? Optional.of(session.work("table " + name + " can't be looked at", () -> session.catalogue()
                                .define(name)))
                        : Optional.empty());
        coming.forEach((source, table) -> routes.computeIfPresent(source, (s, route) -> route.withTable(table)));
    }
}
