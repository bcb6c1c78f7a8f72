package org.orderlyferry.tally;

import com.dynatrace.hash4j.hashing.HashValue128;
import com.dynatrace.hash4j.hashing.Hasher128;
import com.dynatrace.hash4j.hashing.Hashing;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.record.RecordBatch;

/**
 * Takes a tally of records in passing. Each value is hashed once (XXH3, 128 bits); the hash goes into its column's sum,
 * and the hashes of a record's values, hashed once more in their order, go into the table's sum. A null has a hash of
 * its own that no value has. Not safe for use by several threads.
 */
public final class TallyTaker {

    private static final Hasher128 HASHER = Hashing.xxh3_128();
    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

    /** 128 bits that stand for null, picked once at random; a value hits them with a chance of one in 2^128. */
    private static final long NULL_HIGH = 0x6c1f3b0e94d7a258L;

    private static final long NULL_LOW = 0xb7e95d2041c8f36aL;

    private final List<String> names;
    private final ComparisonForm[] forms;
    private final long[] highs;
    private final long[] lows;
    private final long[] nulls;
    private final byte[] rowHashes;
    private final Cell cell = new Cell();
    private long rows;
    private long high;
    private long low;

    /** Tallies columns in these forms, in this order. */
    public TallyTaker(List<String> columns, List<ComparisonForm> forms) {
        this.names = List.copyOf(columns);
        this.forms = forms.toArray(ComparisonForm[]::new);
        this.highs = new long[this.forms.length];
        this.lows = new long[this.forms.length];
        this.nulls = new long[this.forms.length];
        this.rowHashes = new byte[16 * this.forms.length];
    }

    /** Tallies columns in the forms of their own types. */
    public static TallyTaker of(List<ColumnDefinition> columns) {
        return new TallyTaker(
                columns.stream().map(ColumnDefinition::name).toList(),
                columns.stream().map(c -> ComparisonForm.of(c.type())).toList());
    }

    /** Counts all records of a batch. */
    public void add(RecordBatch batch) {
        int count = batch.rows();
        for (int row = 0; row < count; row++) {
            for (int column = 0; column < forms.length; column++) {
                addCell(batch, row, column);
            }
            HashValue128 hash = HASHER.hashBytesTo128Bits(rowHashes, 0, rowHashes.length);
            long sum = low + hash.getLeastSignificantBits();
            high += hash.getMostSignificantBits() + (Long.compareUnsigned(sum, low) < 0 ? 1 : 0);
            low = sum;
        }
        rows += count;
    }

    private void addCell(RecordBatch batch, int row, int column) {
        int end = batch.end(row, column);
        long valueHigh;
        long valueLow;
        if (end < 0) {
            nulls[column]++;
            valueHigh = NULL_HIGH;
            valueLow = NULL_LOW;
        } else {
            cell.set(batch.bytes(), batch.start(row, column), end);
            forms[column].apply(cell);
            HashValue128 hash = HASHER.hashBytesTo128Bits(cell.bytes, cell.start, cell.end - cell.start);
            valueHigh = hash.getMostSignificantBits();
            valueLow = hash.getLeastSignificantBits();
        }
        LONGS.set(rowHashes, 16 * column, valueHigh);
        LONGS.set(rowHashes, 16 * column + 8, valueLow);
        long sum = lows[column] + valueLow;
        highs[column] += valueHigh + (Long.compareUnsigned(sum, valueLow) < 0 ? 1 : 0);
        lows[column] = sum;
    }

    /** How many records so far. */
    public long rows() {
        return rows;
    }

    /** The tally so far. */
    public Tally tally() {
        List<ColumnTally> columns = new ArrayList<>();
        for (int i = 0; i < forms.length; i++) {
            columns.add(new ColumnTally(names.get(i), forms[i], nulls[i], new Digest(highs[i], lows[i])));
        }
        return new Tally(rows, new Digest(high, low), columns);
    }
}
