package org.orderlyferry.place;

import java.math.BigDecimal;
import java.util.Arrays;
import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.ForwardingReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Records;

/**
 * Gives those records of another reader that are in a range: for places that read all of a table anyway, such as files.
 * Numbers are compared as numbers, all else by the bytes of its value text.
 */
@API(status = API.Status.INTERNAL)
public final class RangedReader extends ForwardingReader {

    private final KeyRange range;
    private final int[] places;
    private final LogicalType[] types;

    private RangedReader(RecordReader reader, KeyRange range) {
        super(reader);
        this.range = range;
        TableDefinition table = reader.table();
        this.places =
                range.columns().stream().mapToInt(table.columnNames()::indexOf).toArray();
        this.types = Arrays.stream(places)
                .mapToObj(table.columns()::get)
                .map(ColumnDefinition::type)
                .toArray(LogicalType[]::new);
    }

    /**
     * What a slice asks for out of a reader that gives all of its table's records.
     *
     * @throws UsageException if the slice doesn't have the columns of its range
     */
    public static RecordReader of(RecordReader reader, Slice slice) {
        if (slice.range().isAll()) {
            return reader;
        }
        KeyRange range = slice.range();
        if (!reader.table().columnNames().containsAll(range.columns())) {
            reader.close();
            throw new UsageException(
                    "a part of table " + slice.table() + " by " + range + " needs these columns to be read too");
        }
        return new RangedReader(reader, range);
    }

    @Override
    public boolean read(RecordBatch batch) {
        while (super.read(batch)) {
            boolean[] unwanted = new boolean[batch.rows()];
            boolean any = false;
            for (int row = 0; row < batch.rows(); row++) {
                unwanted[row] = !isIn(batch, row);
                any |= unwanted[row];
            }
            if (any) {
                batch.removeRows(unwanted);
            }
            if (batch.rows() > 0) {
                return true;
            }
        }
        return false;
    }

    private boolean isIn(Records batch, int row) {
        boolean isNull = batch.isNull(row, places[0]);
        if (range.nulls() || isNull) {
            return range.nulls() && isNull;
        }
        return (range.from().isEmpty() || compare(batch, row, range.from()) >= 0)
                && (range.to().isEmpty() || compare(batch, row, range.to()) < 0);
    }

    /** A record's key against another, the first columns first; a null further on stands before all values. */
    private int compare(Records batch, int row, List<String> key) {
        for (int i = 0; i < key.size(); i++) {
            String value = batch.text(row, places[i]);
            int compared = value == null ? -1 : compare(types[i], value, key.get(i));
            if (compared != 0) {
                return compared;
            }
        }
        return 0;
    }

    private static int compare(LogicalType type, String one, String other) {
        return type.name().isExactNumber()
                ? new BigDecimal(one).compareTo(new BigDecimal(other))
                : Arrays.compareUnsigned(
                        one.getBytes(java.nio.charset.StandardCharsets.UTF_8),
                        other.getBytes(java.nio.charset.StandardCharsets.UTF_8));
    }
}
