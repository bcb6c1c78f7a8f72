package org.orderlyferry.crossing;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;

/**
 * A table on its way.
 *
 * @param name at the source
 * @param to at the target
 * @param where a condition that its records must meet; empty for all
 * @param cutBy the column by which it is cut into slices; empty for its primary key
 * @param growsBy a column of the source whose values grow with every change of a record, by which a catch-up finds what has
 *     changed; empty for none, and then records are compared
 * @param columns those that are carried
 * @param skip those that are left out
 * @param own what is chosen for it otherwise than for the crossing
 */
@NullMarked
public record CrossingTable(
        TableName name,
        TableName to,
        String where,
        String cutBy,
        String growsBy,
        List<CrossingColumn> columns,
        List<String> skip,
        OwnChoices own) {
    public CrossingTable {
        columns = List.copyOf(columns);
        skip = List.copyOf(skip);
    }

    /** A table with which all is done as the crossing says. */
    public CrossingTable(
            TableName name,
            TableName to,
            String where,
            String cutBy,
            String growsBy,
            List<CrossingColumn> columns,
            List<String> skip) {
        this(name, to, where, cutBy, growsBy, columns, skip, OwnChoices.NONE);
    }

    /** What a column of the source is called at the target; empty if it isn't carried. */
    Optional<String> atTarget(String column) {
        return columns.stream()
                .filter(c -> c.name().equals(column))
                .map(CrossingColumn::to)
                .findFirst();
    }
}
