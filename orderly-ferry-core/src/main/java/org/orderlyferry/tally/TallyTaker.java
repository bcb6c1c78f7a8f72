package org.orderlyferry.tally;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.record.Records;

/**
 * Takes a tally of records in passing. Each value is hashed once ({@link CellHash}); the hash goes into its column's sum.
 * A record's hashes are mixed in the order of its columns, as MurmurHash3 mixes its blocks, so that a value in another
 * column, or another record, gives another sum; that goes into the table's sum. A null has a hash of its own that no value
 * has. A batch is gone through column by column: the same work on the same kind of value again and again. Not safe for use
 * by several threads.
 */
@API(status = API.Status.INTERNAL)
public final class TallyTaker {

    /** 128 bits that stand for null, picked once at random; a value hits them with a chance of one in 2^128. */
    private static final long NULL_HIGH = 0x6c1f3b0e94d7a258L;

    private static final long NULL_LOW = 0xb7e95d2041c8f36aL;

    private final List<String> names;
    private final int[] places;
    private final ComparisonForm[] forms;
    private final long[] highs;
    private final long[] lows;
    private final long[] nulls;
    private final Cell cell = new Cell();
    private final CellHash hash = new CellHash();
    private long[] rowHighs = new long[0];
    private long[] rowLows = new long[0];
    private final boolean[] keys;
    private int keyCount;
    private long[] keyHighs = new long[0];
    private long[] keyLows = new long[0];
    private Witness witness = (batch, taker) -> {};
    private long rows;
    private long high;
    private long low;

    /** Sees each batch of records right after it was added, when each record's hash can be asked for. */
    @FunctionalInterface
    public interface Witness {
        void saw(Records batch, TallyTaker taker);
    }

    /** Tallies columns in these forms, in this order. */
    public TallyTaker(List<String> columns, List<ComparisonForm> forms) {
        this(columns, forms, IntStream.range(0, columns.size()).toArray());
    }

    /**
     * Tallies some of a record's columns.
     *
     * @param columns their names
     * @param places where each stands in a record
     */
    public TallyTaker(List<String> columns, List<ComparisonForm> forms, int[] places) {
        this.places = places.clone();
        this.names = List.copyOf(columns);
        this.forms = forms.toArray(ComparisonForm[]::new);
        this.highs = new long[this.forms.length];
        this.lows = new long[this.forms.length];
        this.nulls = new long[this.forms.length];
        this.keys = new boolean[this.forms.length];
    }

    /** Mixes hashes of some columns, in their order, into one of their own for each record as well: that of its key. */
    public TallyTaker keyed(int... columns) {
        for (int column : columns) {
            keys[column] = true;
        }
        keyCount = columns.length;
        return this;
    }

    /** Tallies columns in the forms of their own types. */
    public static TallyTaker of(List<ColumnDefinition> columns) {
        return new TallyTaker(
                columns.stream().map(ColumnDefinition::name).toList(),
                columns.stream().map(c -> ComparisonForm.of(c.type())).toList());
    }

    /** One more who sees what is added. */
    public TallyTaker witness(Witness value) {
        Witness before = witness;
        witness = (batch, taker) -> {
            before.saw(batch, taker);
            value.saw(batch, taker);
        };
        return this;
    }

    /** Counts all records of a batch. */
    public void add(Records batch) {
        int count = batch.rows();
        if (rowHighs.length < count) {
            rowHighs = new long[count];
            rowLows = new long[count];
        }
        if (keyCount > 0) {
            if (keyHighs.length < count) {
                keyHighs = new long[count];
                keyLows = new long[count];
            }
            Arrays.fill(keyHighs, 0, count, 0);
            Arrays.fill(keyLows, 0, count, 0);
        }
        Arrays.fill(rowHighs, 0, count, 0);
        Arrays.fill(rowLows, 0, count, 0);
        for (int column = 0; column < forms.length; column++) {
            if (forms[column] == ComparisonForm.EXACT) {
                addExact(batch, column, count);
            } else {
                addColumn(batch, column, count);
            }
        }
        addRows(count);
        for (int row = 0; keyCount > 0 && row < count; row++) {
            finish(row, keyHighs, keyLows, keyCount);
        }
        witness.saw(batch, this);
    }

    private void addExact(Records batch, int column, int count) {
        byte[] bytes = batch.bytes();
        int place = places[column];
        for (int row = 0; row < count; row++) {
            int end = batch.end(row, place);
            if (end < 0) {
                addNull(row, column);
            } else {
                hash.of(bytes, batch.start(row, place), end);
                add(row, column, hash.high(), hash.low());
            }
        }
    }

    private void addColumn(Records batch, int column, int count) {
        ComparisonForm form = forms[column];
        int place = places[column];
        for (int row = 0; row < count; row++) {
            int end = batch.end(row, place);
            if (end < 0) {
                addNull(row, column);
            } else {
                cell.set(batch.bytes(), batch.start(row, place), end);
                form.apply(cell);
                hash.of(cell.bytes, cell.start, cell.end);
                add(row, column, hash.high(), hash.low());
            }
        }
    }

    private void addNull(int row, int column) {
        nulls[column]++;
        add(row, column, NULL_HIGH, NULL_LOW);
    }

    /** Adds a value's hash to its column, and mixes it into its record. */
    private void add(int row, int column, long valueHigh, long valueLow) {
        long sum = lows[column] + valueLow;
        highs[column] += valueHigh + (Long.compareUnsigned(sum, valueLow) < 0 ? 1 : 0);
        lows[column] = sum;
        mix(row, rowHighs, rowLows, valueHigh, valueLow);
        if (keys[column]) {
            mix(row, keyHighs, keyLows, valueHigh, valueLow);
        }
    }

    private static void mix(int row, long[] highs, long[] lows, long valueHigh, long valueLow) {
        long h1 = Long.rotateLeft(lows[row] ^ valueLow, 27) + highs[row];
        h1 = h1 * 5 + 0x52dce729;
        long h2 = Long.rotateLeft(highs[row] ^ valueHigh, 31) + h1;
        lows[row] = h1;
        highs[row] = h2 * 5 + 0x38495ab5;
    }

    private static void finish(int row, long[] highs, long[] lows, int columns) {
        long h1 = lows[row] ^ columns;
        long h2 = highs[row] ^ columns;
        h1 += h2;
        h2 += h1;
        h1 = CellHash.avalanche(h1);
        h2 = CellHash.avalanche(h2);
        h1 += h2;
        h2 += h1;
        lows[row] = h1;
        highs[row] = h2;
    }

    private void addRows(int count) {
        for (int row = 0; row < count; row++) {
            finish(row, rowHighs, rowLows, forms.length);
            long sum = low + rowLows[row];
            high += rowHighs[row] + (Long.compareUnsigned(sum, low) < 0 ? 1 : 0);
            low = sum;
        }
        rows += count;
    }

    /** The upper 64 bits of the hash of a record of the batch that was added last; the table's digest is the sum of these. */
    public long rowHigh(int row) {
        return rowHighs[row];
    }

    /** The lower 64 bits. */
    public long rowLow(int row) {
        return rowLows[row];
    }

    /** The upper 64 bits of a record's key, of the batch that was added last. */
    public long keyHigh(int row) {
        return keyHighs[row];
    }

    /** The lower 64 bits. */
    public long keyLow(int row) {
        return keyLows[row];
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
