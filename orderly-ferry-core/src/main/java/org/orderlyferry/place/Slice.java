package org.orderlyferry.place;

import java.util.List;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * What to read of a table: all of it, or a part. A plain value, so that it can be written down and sent elsewhere.
 *
 * @param table which table
 * @param columns the columns to give, in this order
 * @param range which records, by a key
 * @param piece which of the table's files, or which bytes of one, in a place made of files
 */
public record Slice(TableName table, List<String> columns, KeyRange range, FilePiece piece) {
    public Slice {
        columns = List.copyOf(columns);
    }

    /** All records of a table, and some of its columns. */
    public Slice(TableName table, List<String> columns) {
        this(table, columns, KeyRange.ALL, FilePiece.ALL);
    }

    /** All records and all columns of a table. */
    public static Slice whole(TableDefinition table) {
        return new Slice(table.name(), table.columnNames());
    }

    /** The same columns of some records. */
    public Slice within(KeyRange some) {
        return new Slice(table, columns, some, piece);
    }

    /** The same columns of a piece's records. */
    public Slice of(FilePiece some) {
        return new Slice(table, columns, range, some);
    }
}
