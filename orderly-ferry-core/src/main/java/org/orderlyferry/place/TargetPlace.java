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
    Loading begin(List<TableDefinition> tables, LoadMode mode);

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
