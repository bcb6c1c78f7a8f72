package org.orderlyferry.crossing;

import java.util.List;
import org.orderlyferry.model.TableName;

/**
 * A table on its way.
 *
 * @param name at the source
 * @param to at the target
 * @param where a condition that its records must meet; empty for all
 * @param cutBy the column by which it is cut into slices; empty for its primary key
 * @param columns those that are carried
 * @param skip those that are left out
 */
public record CrossingTable(
        TableName name, TableName to, String where, String cutBy, List<CrossingColumn> columns, List<String> skip) {
    public CrossingTable {
        columns = List.copyOf(columns);
        skip = List.copyOf(skip);
    }
}
