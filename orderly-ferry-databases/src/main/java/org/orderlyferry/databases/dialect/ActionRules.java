package org.orderlyferry.databases.dialect;

import java.util.EnumSet;
import java.util.Set;
import org.apiguardian.api.API;
import org.orderlyferry.model.ReferentialAction;

/**
 * Which actions of references a system has (ISO/IEC 9075-2, referential actions), and which it takes beside each other. What it
 * refuses, it refuses when the reference is made, which is after all records are in.
 *
 * @param onUpdate what it has behind ON UPDATE
 * @param onDelete what it has behind ON DELETE
 * @param needsRoom whether it refuses SET NULL of columns that can't be null, and SET DEFAULT of those without a default
 * @param paths by how many ways a record may follow another one
 */
@API(status = API.Status.INTERNAL)
public record ActionRules(
        Set<ReferentialAction> onUpdate, Set<ReferentialAction> onDelete, boolean needsRoom, Paths paths) {

    /** By how many ways a record may follow another one. */
    public enum Paths {
        /** By as many as there are. */
        ANY,
        /** By one, and never back to its own table, whatever the action is. */
        ONE,
        /** By several only if all do the same, which mustn't be SET NULL; and never back to its own table by way of others. */
        ALIKE
    }

    /** All actions, wherever they stand. */
    public static final ActionRules ALL = new ActionRules(
            EnumSet.allOf(ReferentialAction.class), EnumSet.allOf(ReferentialAction.class), false, Paths.ANY);

    public ActionRules {
        onUpdate = Set.copyOf(onUpdate);
        onDelete = Set.copyOf(onDelete);
    }
}
