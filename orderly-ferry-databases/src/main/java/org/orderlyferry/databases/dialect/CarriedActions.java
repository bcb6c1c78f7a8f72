package org.orderlyferry.databases.dialect;

import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;

/** Actions of references so far as a system has them; a reference without its action is one that refuses, as ISO SQL has it. */
final class CarriedActions {

    private final ReferenceRules rules;
    private final String system;
    private final LoadNotes notes;

    CarriedActions(ReferenceRules rules, String system, LoadNotes notes) {
        this.rules = rules;
        this.system = system;
        this.notes = notes;
    }

    /** A reference with the actions that it can have; what it loses is left behind by name. */
    ForeignKey of(TableDefinition table, ForeignKey key) {
        Optional<String> update = against(table, key, key.onUpdate(), rules.onUpdate(), "ON UPDATE ");
        Optional<String> delete = against(table, key, key.onDelete(), rules.onDelete(), "ON DELETE ");
        String reasons = Stream.of(update, delete)
                .flatMap(Optional::stream)
                .filter(r -> !r.isEmpty())
                .distinct()
                .collect(Collectors.joining(", and "));
        if (!reasons.isEmpty()) {
            notes.leftBehind("referential action", table.name() + "." + key.shown(), reasons);
        }
        return key.withActions(
                update.isPresent() ? ReferentialAction.NO_ACTION : key.onUpdate(),
                delete.isPresent() ? ReferentialAction.NO_ACTION : key.onDelete());
    }

    /** Why an action can't be; without a word where it is RESTRICT, which is NO ACTION that is checked at once. */
    private Optional<String> against(
            TableDefinition table, ForeignKey key, ReferentialAction action, Set<ReferentialAction> had, String when) {
        if (!had.contains(action)) {
            return Optional.of(action == ReferentialAction.RESTRICT ? "" : system + " hasn't " + when + action.sql());
        }
        if (!rules.needsRoom() || !action.isReplacing()) {
            return Optional.empty();
        }
        return key.columns().stream()
                .flatMap(c -> table.column(c).stream())
                .filter(c -> action == ReferentialAction.SET_NULL
                        ? !c.nullable() || isKey(table, c)
                        : c.defaultValue().isEmpty())
                .map(c -> action == ReferentialAction.SET_NULL
                        ? "it would set " + c.name() + " to null, which can't be null"
                        : "it would set " + c.name() + " to its default, of which it has none")
                .findFirst();
    }

    private static boolean isKey(TableDefinition table, ColumnDefinition column) {
        return table.primaryKey()
                .filter(k -> k.columns().contains(column.name()))
                .isPresent();
    }
}
