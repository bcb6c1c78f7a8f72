package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.Arrival;
import org.orderlyferry.databases.LoadNotes;
import org.orderlyferry.databases.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.TypeFit;

/** Gives columns that refer to others the type of these, in systems that need it. */
final class ReferenceTypes {

    private final Session session;
    private final LoadNotes notes;
    private final Map<TableName, Route> routes;
    private boolean changed;

    ReferenceTypes(Session session, Map<TableName, Route> routes, LoadNotes notes) {
        this.session = session;
        this.routes = routes;
        this.notes = notes;
    }

    /** Follows all references, also along chains of them. */
    void unite() throws SQLException {
        do {
            changed = false;
            for (Map.Entry<TableName, Route> entry : routes.entrySet()) {
                if (entry.getValue().arrival().isNewTable()) {
                    entry.setValue(united(entry.getValue()));
                }
            }
        } while (changed);
    }

    private Route united(Route route) throws SQLException {
        Arrival arrival = route.arrival();
        TableDefinition table = arrival.table();
        List<ForeignKey> kept = new ArrayList<>();
        for (ForeignKey key : table.foreignKeys()) {
            Optional<TableDefinition> target = target(key.target(), table);
            Optional<TableDefinition> fitted = target.isEmpty() ? Optional.empty() : fitted(table, key, target.get());
            if (target.isPresent() && fitted.isEmpty()) {
                notes.leftBehind(
                        "foreign key",
                        table.name() + "." + (key.name().isEmpty() ? String.join("+", key.columns()) : key.name()),
                        "its columns are of other types than those of " + key.target() + " that they refer to");
                changed = true;
            } else {
                table = fitted.orElse(table);
                kept.add(key);
            }
        }
        TableDefinition whole = table.toBuilder().foreignKeys(kept).build();
        return new Route(
                new Arrival(arrival.source(), arrival.mode(), whole, arrival.loaded(), arrival.there()),
                route.from(),
                whole.toBuilder().name(route.into().name()).build());
    }

    /** Whether two types are one for the system, whatever words were chosen for it. */
    private static boolean isSame(ColumnDefinition one, ColumnDefinition other) {
        return one.sourceType().equalsIgnoreCase(other.sourceType())
                || one.type().equals(other.type())
                        && one.sourceType().contains("unsigned")
                                == other.sourceType().contains("unsigned");
    }

    private Optional<TableDefinition> target(TableName name, TableDefinition self) throws SQLException {
        if (name.equals(self.name())) {
            return Optional.of(self);
        }
        Optional<TableDefinition> coming = routes.values().stream()
                .map(r -> r.arrival().table())
                .filter(t -> t.name().equals(name))
                .findFirst();
        return coming.isPresent() || !session.catalogue().tables().contains(name)
                ? coming
                : Optional.of(session.catalogue().define(name));
    }

    /** The table with the types that a reference needs; nothing where they can't hold the values. */
    private Optional<TableDefinition> fitted(TableDefinition table, ForeignKey key, TableDefinition target) {
        List<ColumnDefinition> columns = new ArrayList<>(table.columns());
        for (int i = 0; i < key.columns().size(); i++) {
            int at = table.columnNames().indexOf(key.columns().get(i));
            ColumnDefinition mine = columns.get(at);
            Optional<ColumnDefinition> its = target.column(key.targetColumns().get(i));
            if (its.isEmpty() || isSame(mine, its.get())) {
                continue;
            }
            if (TypeFit.of(mine.type(), its.get().type()) != TypeFit.ALWAYS) {
                return Optional.empty();
            }
            notes.finding(
                    table.name(),
                    mine.name(),
                    "becomes " + its.get().sourceType() + " instead of " + mine.sourceType() + ", like " + target.name()
                            + "." + its.get().name() + ", which it refers to");
            changed = true;
            columns.set(
                    at,
                    mine.withType(its.get().type()).toBuilder()
                            .sourceType(its.get().sourceType())
                            .build());
        }
        return Optional.of(table.toBuilder().columns(columns).build());
    }
}
