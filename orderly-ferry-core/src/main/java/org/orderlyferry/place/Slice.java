package org.orderlyferry.place;

import java.util.List;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * What to read of a table: all of it, or a part. A plain value, so that it can be written down and sent elsewhere.
 *
 * @param table which table
 * @param columns the columns to give, in this order
 * @param range which records, by a key
 * @param part which of a table's files, from 1, in a place that keeps it in several; 0 for all
 */
public record Slice(TableName table, List<String> columns, KeyRange range, int part) {
    public Slice {
        columns = List.copyOf(columns);
    }

    /** All records of a table, and some of its columns. */
    public Slice(TableName table, List<String> columns) {
        this(table, columns, KeyRange.ALL, 0);
    }

    /** All records and all columns of a table. */
    public static Slice whole(TableDefinition table) {
        return new Slice(table.name(), table.columnNames());
    }

    /** The same columns of some records. */
    public Slice within(KeyRange some) {
        return new Slice(table, columns, some, part);
    }

    /** The same columns of one file's records. */
    public Slice ofPart(int number) {
        return new Slice(table, columns, range, number);
    }
}
