package org.orderlyferry.place;

import java.util.List;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * What to read of a table. So far a slice is a whole table.
 *
 * @param table which table
 * @param columns the columns to give, in this order
 */
public record Slice(TableName table, List<String> columns) {
    public Slice {
        columns = List.copyOf(columns);
    }

    /** All records and all columns of a table. */
    public static Slice whole(TableDefinition table) {
        return new Slice(table.name(), table.columnNames());
    }
}
