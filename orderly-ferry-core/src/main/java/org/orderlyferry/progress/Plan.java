package org.orderlyferry.progress;

import java.util.List;
import org.orderlyferry.model.TableName;

/**
 * What an export is about to do.
 *
 * @param connections how many connections to the source it uses, all in all
 * @param lanes how many slices move at once
 * @param tables in the order in which they begin
 */
public record Plan(int connections, int lanes, List<Table> tables) {
    public Plan {
        tables = List.copyOf(tables);
    }

    /**
     * One table.
     *
     * @param rows how many records it has
     * @param slices how many slices it is cut into
     * @param by the columns by which it is cut; empty where it is read in one
     */
    public record Table(TableName table, long rows, int slices, List<String> by) {
        public Table {
            by = List.copyOf(by);
        }
    }
}
