package org.orderlyferry.record;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.Origin;

/**
 * A run of records as whoever takes them sees it: row-major, as ranges of one array of bytes. Every value is the UTF-8 value
 * text of its logical type (binary values: the raw bytes), or null. {@link RecordBatch} is how they are filled in.
 *
 * <p>Values may stand anywhere in {@link #bytes()}, in any order and with gaps. Behind each of them are {@link
 * RecordBatch#SLACK} bytes that may be looked at. Not safe for use by several threads at once.
 */
public abstract sealed class Records permits RecordBatch {

    static final int NULL = -1;

    byte[] bytes = new byte[RecordBatch.TARGET_BYTES + RecordBatch.SLACK];
    int size;
    int[] starts = new int[4096];
    int[] ends = new int[4096];
    long[] lines = new long[256];
    int columns;
    int rows;
    int cell;
    String table = "";
    String source = "";
    boolean fromFile;
    RecordKey key = RecordKey.NONE;
    /** The table that the key is of. */
    @Nullable
    TableDefinition keyed;

    /** None yet. */
    Records() {}

    /** How many records it holds. */
    public final int rows() {
        return rows;
    }

    /** How many values each record has. */
    public final int columns() {
        return columns;
    }

    /** The values' bytes. The array is another one after the batch has grown. */
    public final byte[] bytes() {
        return bytes;
    }

    /** How many bytes all values have together. */
    public final long valueBytes() {
        long sum = 0;
        for (int i = 0; i < cell; i++) {
            // a null's range is (0, -1)
            sum += Math.max(0, ends[i] - starts[i]);
        }
        return sum;
    }

    /** Whether a record has no value in a column. */
    public final boolean isNull(int row, int column) {
        return ends[row * columns + column] == NULL;
    }

    /** Where a value begins in {@link #bytes()}; meaningless for a null. */
    public final int start(int row, int column) {
        return starts[row * columns + column];
    }

    /** Where a value ends in {@link #bytes()}, exclusive; negative for a null. */
    public final int end(int row, int column) {
        return ends[row * columns + column];
    }

    /** A value as text, or null; for messages and edges, not for the way in between. */
    public final @Nullable String text(int row, int column) {
        int at = row * columns + column;
        return ends[at] == NULL ? null : new String(bytes, starts[at], ends[at] - starts[at], StandardCharsets.UTF_8);
    }

    /** A copy of a value's bytes, or null. */
    public final byte @Nullable [] copy(int row, int column) {
        int at = row * columns + column;
        return ends[at] == NULL ? null : Arrays.copyOfRange(bytes, starts[at], ends[at]);
    }

    /** Where a record came from. */
    public final Origin origin(int row) {
        return new Origin(table, source, lines[row], fromFile, keyOf(row));
    }

    /** What tells a record apart; empty where nothing does. */
    final String keyOf(int row) {
        return key.of(place -> text(row, place));
    }
}
