package org.orderlyferry.work;

import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;

/**
 * How large slices are, by both of its measures: few large records are as much work as many small ones, and as much to move again
 * after a kill.
 *
 * @param rows how many records a slice has, about
 * @param bytes how many bytes of a table or file, about, where that is fewer records
 */
@API(status = API.Status.INTERNAL)
public record SliceSize(long rows, long bytes) {

    /** More than numbers, dates and times take in any system. */
    private static final long NARROW = 64;

    private static final long BYTES_A_CHARACTER = 4;

    /**
     * Cuts a table.
     *
     * @param number how many records it has, about
     * @param by by which columns tables are cut, instead of their primary keys
     * @param standing when they may be cut by where their records stand
     */
    public List<Slice> slices(
            Place source, TableDefinition table, long number, Map<TableName, String> by, Cut.Standing standing) {
        return source.cut(table, number, new Cut(rows(source, table, number), by, standing));
    }

    /** How many records of a table are a slice, about. */
    private long rows(Place source, TableDefinition table, long number) {
        if (number < 2 || number <= bytes / widest(table)) {
            return rows;
        }
        return rows(number, source.quickBytes(table.name()));
    }

    /**
     * How many of so many records are a slice, about.
     *
     * @param all how many bytes they have
     */
    long rows(long number, OptionalLong all) {
        return all.isEmpty() || all.getAsLong() <= bytes
                ? rows
                : Math.min(rows, Math.max(1, (long) ((double) number * bytes / all.getAsLong())));
    }

    /** How many bytes a record has at most; tables of which none can be large needn't be asked for their size. */
    private static long widest(TableDefinition table) {
        long widest = 1;
        for (ColumnDefinition column : table.columns()) {
            widest += widest(column.type());
            if (widest > Integer.MAX_VALUE) {
                return Integer.MAX_VALUE;
            }
        }
        return widest;
    }

    private static long widest(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN,
                    SMALLINT,
                    INTEGER,
                    BIGINT,
                    REAL,
                    DOUBLE,
                    DATE,
                    TIME,
                    TIMESTAMP,
                    TIMESTAMP_WITH_TIME_ZONE,
                    UUID -> NARROW;
            case CHARACTER, VARCHAR, BINARY, VARBINARY ->
                type.size() > 0 ? NARROW + BYTES_A_CHARACTER * type.size() : Integer.MAX_VALUE;
            default -> Integer.MAX_VALUE;
        };
    }
}
