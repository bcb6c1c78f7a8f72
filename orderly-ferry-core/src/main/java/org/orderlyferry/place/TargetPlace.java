package org.orderlyferry.place;

import java.util.List;
import org.orderlyferry.model.TableDefinition;

/** A place that can take tables. */
public interface TargetPlace extends Place {

    /**
     * Makes ready for tables to be loaded.
     *
     * @param tables in the order in which they are to be loaded
     * @param mode what is done with tables that are there already
     * @throws org.orderlyferry.problem.UsageException if what is there doesn't allow it; nothing has been changed then
     */
    default Loading begin(List<TableDefinition> tables, LoadMode mode) {
        return begin(tables, mode, "");
    }

    /**
     * Makes ready for tables to be loaded; or goes on with a load that was suspended or killed, if it was of the same plan.
     * A load of another plan that was cut short is undone first.
     *
     * @param plan names the plan, so that another load of the same name does the very same; empty for a load that nothing
     *     goes on with
     */
    Loading begin(List<TableDefinition> tables, LoadMode mode, String plan);

    /**
     * Writes parts for a load that was begun elsewhere and is suspended there, beside others that do so; it isn't to be
     * finished by this one.
     *
     * @throws org.orderlyferry.problem.UsageException if there is no such load
     * @throws UnsupportedOperationException if the target can't
     */
    default Loading join(List<TableDefinition> tables, LoadMode mode, String plan) {
        throw new UnsupportedOperationException("a load into this kind of place can't be left and gone on with");
    }

    /**
     * Does as {@link #begin} does, as far as that is possible without changing anything: what can't be carried is
     * noted, and the writers only look whether each value can be held.
     */
    Loading rehearse(List<TableDefinition> tables, LoadMode mode);

    /** How many writers can work at once at most. */
    default int mostLanes() {
        return 1;
    }
}
