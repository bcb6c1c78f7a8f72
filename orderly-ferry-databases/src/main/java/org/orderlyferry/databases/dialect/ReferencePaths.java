package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import org.apiguardian.api.API;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * Has references of all tables of a load follow each other by no more ways than the system takes. The references stay; one
 * whose action would be one too many refuses instead, and that is told, by name, before anything moves.
 */
@API(status = API.Status.INTERNAL)
public final class ReferencePaths {

    private final ReferenceRules rules;
    private final String system;
    private final LoadNotes notes;

    /** By what a system takes. */
    public ReferencePaths(ReferenceRules rules, String system, LoadNotes notes) {
        this.rules = rules;
        this.system = system;
        this.notes = notes;
    }

    /**
     * Goes through the references in their order, through those by which records go before all others; those that come first
     * keep their actions.
     *
     * @param tables by whatever name; each is replaced by one whose references can be made
     * @param own which of these names are of tables of the same system, which has taken their actions already
     * @param others finds tables that are there and stay as they are
     */
    public void settle(
            Map<TableName, TableDefinition> tables,
            Predicate<TableName> own,
            Function<TableName, Optional<TableDefinition>> others) {
        if (rules.paths() == ReferenceRules.Paths.ANY) {
            return;
        }
        Paths paths = rules.paths() == ReferenceRules.Paths.ONE ? new OnePath(others) : new AlikePaths(others);
        tables.values().forEach(t -> paths.comes(t.name(), t.foreignKeys()));
        tables.forEach((source, table) -> {
            if (own.test(source)) {
                table.foreignKeys().forEach(k -> paths.add(table.name(), k));
            }
        });
        Map<TableName, Set<ForeignKey>> taken = new HashMap<>();
        // records that have to go count for more than columns that become null
        for (boolean going : new boolean[] {true, false}) {
            tables.forEach((source, table) -> table.foreignKeys().stream()
                    .filter(k -> !own.test(source) && isGoing(table, k) == going && paths.takes(table.name(), k))
                    .forEach(k -> {
                        paths.add(table.name(), k);
                        taken.computeIfAbsent(source, s -> new HashSet<>()).add(k);
                    }));
        }
        tables.replaceAll(
                (source, table) -> own.test(source) ? table : settled(table, taken.getOrDefault(source, Set.of())));
    }

    private static boolean isGoing(TableDefinition table, ForeignKey key) {
        return key.onDelete() == ReferentialAction.CASCADE && !key.target().equals(table.name());
    }

    private TableDefinition settled(TableDefinition table, Set<ForeignKey> taken) {
        List<ForeignKey> keys = new ArrayList<>();
        for (ForeignKey key : table.foreignKeys()) {
            if (taken.contains(key)) {
                keys.add(key);
                continue;
            }
            // what refuses anyway does so at once, or at the statement's end
            if (key.onDelete().isWriting() || key.onUpdate().isWriting()) {
                notes.leftBehind(
                        "referential action",
                        table.name() + "." + key.shown(),
                        key.target().equals(table.name())
                                ? "in " + system + " no record can so follow another one of its own table"
                                : "records would follow others by more ways than " + system + " takes");
            }
            keys.add(key.withActions(ReferentialAction.NO_ACTION, ReferentialAction.NO_ACTION));
        }
        return table.toBuilder().foreignKeys(keys).build();
    }

    /** The ways that there are by now. */
    interface Paths {

        /** A table comes, with references of which none has an action yet. */
        void comes(TableName table, List<ForeignKey> keys);

        /** Whether the system would take a reference as it is. */
        boolean takes(TableName table, ForeignKey key);

        /** It has it. */
        void add(TableName table, ForeignKey key);
    }
}
