package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
    /** Whether types stay as they are from now on. */
    private boolean settled;

    ReferenceTypes(Session session, Map<TableName, Route> routes, LoadNotes notes) {
        this.session = session;
        this.routes = routes;
        this.notes = notes;
    }

    /** Follows all references, also along chains of them; a circle of them may have no types that fit all around. */
    void unite() throws SQLException {
        changed = true;
        for (int round = 0; changed && round <= routes.size(); round++) {
            changed = false;
            settled = round == routes.size();
            for (Map.Entry<TableName, Route> entry : routes.entrySet()) {
                if (entry.getValue().arrival().isNewTable()) {
                    entry.setValue(united(entry.getValue()));
                }
            }
        }
    }

    private Route united(Route route) throws SQLException {
        TableDefinition table = route.arrival().table();
        List<ForeignKey> kept = new ArrayList<>();
        for (ForeignKey key : table.foreignKeys()) {
            Optional<TableDefinition> target = target(key.target(), table);
            Optional<TableDefinition> fitted = target.isEmpty() ? Optional.empty() : fitted(table, key, target.get());
            if (target.isPresent() && fitted.isEmpty()) {
                notes.leftBehind(
                        "foreign key",
                        table.name() + "." + key.shown(),
                        "its columns are of other types than those of " + key.target() + " that they refer to");
            } else {
                table = fitted.orElse(table);
                kept.add(key);
            }
        }
        return route.withTable(table.toBuilder().foreignKeys(kept).build());
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
            if (settled || TypeFit.of(mine.type(), its.get().type()) != TypeFit.ALWAYS) {
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
