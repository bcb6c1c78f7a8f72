package org.orderlyferry.place;

import java.util.Map;
import org.orderlyferry.model.TableName;

/**
 * How tables are cut into slices.
 *
 * @param rows how many records a slice has, about
 * @param columns by which column a table is cut; those not named are cut by their primary key
 */
public record Cut(long rows, Map<TableName, String> columns) {

    public static final long DEFAULT_ROWS = 1_000_000;

    public static final Cut DEFAULT = new Cut(DEFAULT_ROWS, Map.of());

    public Cut {
        columns = Map.copyOf(columns);
        if (rows < 1) {
            throw new IllegalArgumentException("a slice has at least one record");
        }
    }
}
