package org.orderlyferry.databases.dialect;

import java.util.EnumSet;
import java.util.Set;
import org.apiguardian.api.API;
import org.orderlyferry.model.ReferentialAction;

/**
 * Which references a system takes: the actions that it has (ISO/IEC 9075-2, referential actions), which of them beside each other,
 * and to what. What it refuses, it refuses when the reference is made, which is after all records are in.
 *
 * @param onUpdate what it has behind ON UPDATE
 * @param onDelete what it has behind ON DELETE
 * @param needsRoom whether it refuses SET NULL of columns that can't be null, and SET DEFAULT of those without a default
 * @param paths by how many ways a record may follow another one
 * @param referred what can be referred to
 */
@API(status = API.Status.INTERNAL)
public record ReferenceRules(
        Set<ReferentialAction> onUpdate,
        Set<ReferentialAction> onDelete,
        boolean needsRoom,
        Paths paths,
        Referred referred) {

    /** What can be referred to, beside primary keys. */
    @API(status = API.Status.INTERNAL)
    public enum Referred {
        /** Unique keys. */
        KEYS,
        /** Unique keys, and unique indexes of all records. */
        UNIQUE,
        /** The same, if none of their columns can be null. */
        UNIQUE_WITHOUT_NULLS,
        /** Whatever begins with the columns: a key or an index, unique or not. */
        LEADING
    }

    /** By how many ways a record may follow another one. */
    @API(status = API.Status.INTERNAL)
    public enum Paths {
        /** By as many as there are. */
        ANY,
        /** By one, and never back to its own table, whatever the action is. */
        ONE,
        /** By several only if all do the same, which mustn't be SET NULL; and never back to its own table by way of others. */
        ALIKE
    }

    /** All actions, wherever they stand. */
    public static final ReferenceRules ALL = new ReferenceRules(
            EnumSet.allOf(ReferentialAction.class),
            EnumSet.allOf(ReferentialAction.class),
            false,
            Paths.ANY,
            Referred.UNIQUE);

    public ReferenceRules {
        onUpdate = Set.copyOf(onUpdate);
        onDelete = Set.copyOf(onDelete);
    }

    /** The same rules, and something else that can be referred to. */
    public ReferenceRules to(Referred other) {
        return new ReferenceRules(onUpdate, onDelete, needsRoom, paths, other);
    }
}
