package org.orderlyferry.work;

import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;

/**
 * A table that was wanted and couldn't be read.
 *
 * @param table which table
 * @param reason why not, and what to do about it
 */
@NullMarked
public record FailedTable(TableName table, String reason) {

    @Override
    public String toString() {
        return table + ": " + reason;
    }
}
