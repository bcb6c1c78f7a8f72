package org.orderlyferry.place;

import java.util.List;
import org.orderlyferry.model.TableDefinition;

/** A place that can take tables. */
public interface TargetPlace extends Place {

    /**
     * Makes the tables, empty, ready to be loaded.
     *
     * @param tables in the order in which they are to be loaded
     * @throws org.orderlyferry.problem.UsageException if one of them is there already; nothing has been changed then
     */
    Loading begin(List<TableDefinition> tables);
}
