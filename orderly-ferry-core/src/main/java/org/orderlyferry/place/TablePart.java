package org.orderlyferry.place;

import org.orderlyferry.model.TableName;

/**
 * One of the parts in which a table's records come to a target. A plain value.
 *
 * @param task the number that the part has among all parts of a plan; what a receipt is about
 * @param table the table, by its name at the source
 * @param number which of the table's parts, from 1, in the order in which they are to be read
 * @param of how many parts the table has
 */
public record TablePart(int task, TableName table, int number, int of) {

    /** All of a table's records in one. */
    public static TablePart whole(int task, TableName table) {
        return new TablePart(task, table, 1, 1);
    }

    /** Whether it is all of the table. */
    public boolean isWhole() {
        return of == 1;
    }
}
