package org.orderlyferry.record;

import java.nio.CharBuffer;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.text.Digits;
import org.orderlyferry.record.text.Utf8;

/**
 * Records as whoever fills them in sees them. A batch is filled by a reader, handed on, cleared and filled again, so that
 * moving records makes no garbage.
 *
 * <p>Values may stand anywhere in {@link #bytes()}, in any order and with gaps: a text format's reader fills the array
 * straight from its file and only notes where each value is.
 *
 * <p>A batch is bounded by bytes, not rows: a reader stops when {@link #isFull()}. One value larger than that makes the
 * array grow to its size. Not safe for use by several threads at once.
 */
public final class RecordBatch extends Records {

    /** Extra room behind the values, so that 64 bytes can be looked at from any of them on. */
    public static final int SLACK = 64;

    /** Bytes after which a batch counts as full: large enough for few hand-overs, small enough for a core's cache. */
    public static final int TARGET_BYTES = 256 * 1024;

    private static final int TARGET_CELLS = 64 * 1024;
    /** By how much an array grows at most when a value doesn't ask for more. */
    private static final long STEP = 32L * 1024 * 1024;

    /** How many of the bytes were in use when the current record began. */
    private int sizeBefore;

    /**
     * Empties the batch and says what it will hold.
     *
     * @param columnCount values per record
     * @param tableName for messages
     * @param sourceName the file or place, for messages
     * @param sourceIsFile whether the numbers given to {@link #endRow} count lines of a file
     */
    public void start(int columnCount, String tableName, String sourceName, boolean sourceIsFile) {
        columns = columnCount;
        table = tableName;
        source = sourceName;
        fromFile = sourceIsFile;
        key = RecordKey.NONE;
        keyed = null;
        rows = 0;
        cell = 0;
        size = 0;
        sizeBefore = 0;
    }

    /**
     * Begins anew, with records of a place that has no lines: they are told apart by the table's primary key.
     *
     * @param read the table, with the columns that are read
     */
    public void start(TableDefinition read, String sourceName) {
        RecordKey same = keyed == read ? key : RecordKey.of(read);
        start(read.columns().size(), read.name().toString(), sourceName, false);
        key = same;
        keyed = read;
    }

    /** Whether a reader should hand the batch on before it adds another record. */
    public boolean isFull() {
        return size >= TARGET_BYTES - TARGET_BYTES / 8 || cell >= TARGET_CELLS;
    }

    /** Bytes of {@link #bytes()} that are in use. */
    public int size() {
        return size;
    }

    /** Lets go of room that a huge value took; the batch is empty then. */
    public void shrink() {
        rows = 0;
        cell = 0;
        size = 0;
        sizeBefore = 0;
        if (bytes.length > 4 * TARGET_BYTES) {
            bytes = new byte[TARGET_BYTES + SLACK];
        }
    }

    /**
     * Takes another array for its values, for a reader that fills arrays itself.
     *
     * @param filled with {@link #SLACK} bytes of room at its end
     * @param used how much of it is in use
     * @return the array that the batch had
     */
    public byte[] exchange(byte[] filled, int used) {
        byte[] old = bytes;
        bytes = filled;
        size = used;
        sizeBefore = used;
        return old;
    }

    /** Gives all that it holds to another batch, for what that one holds. */
    public void swap(RecordBatch other) {
        byte[] otherBytes = other.bytes;
        int[] otherStarts = other.starts;
        int[] otherEnds = other.ends;
        long[] otherLines = other.lines;
        int[] numbers = {other.size, other.columns, other.rows, other.cell, other.sizeBefore};
        String otherTable = other.table;
        String otherSource = other.source;
        boolean otherFromFile = other.fromFile;
        RecordKey otherKey = other.key;
        @Nullable TableDefinition otherKeyed = other.keyed;
        other.bytes = bytes;
        other.starts = starts;
        other.ends = ends;
        other.lines = lines;
        other.size = size;
        other.columns = columns;
        other.rows = rows;
        other.cell = cell;
        other.sizeBefore = sizeBefore;
        other.table = table;
        other.source = source;
        other.fromFile = fromFile;
        other.key = key;
        other.keyed = keyed;
        bytes = otherBytes;
        starts = otherStarts;
        ends = otherEnds;
        lines = otherLines;
        size = numbers[0];
        columns = numbers[1];
        rows = numbers[2];
        cell = numbers[3];
        sizeBefore = numbers[4];
        table = otherTable;
        source = otherSource;
        fromFile = otherFromFile;
        key = otherKey;
        keyed = otherKeyed;
    }

    /** Where the record that is being added comes from. */
    public Origin originOf(long line) {
        boolean known = key.isIn(cell - rows * columns);
        return new Origin(table, source, line, fromFile, known ? keyOf(rows) : "");
    }

    // ---- filling -------------------------------------------------------------------------------------------------

    /** Makes room for so many more bytes behind those in use. */
    public void reserve(int more) {
        long needed = (long) size + more + SLACK;
        if (needed > bytes.length) {
            if (needed > Integer.MAX_VALUE - SLACK) {
                throw new IllegalStateException("a record of more than 2 GB can't be held");
            }
            bytes = Arrays.copyOf(bytes, (int) Math.min(
                    Integer.MAX_VALUE - SLACK, Math.max(needed, Math.min(bytes.length * 2L, bytes.length + STEP))));
        }
    }

    /** Adds the next value of the current record: a copy of these bytes. */
    public void add(byte[] from, int start, int end) {
        int length = end - start;
        reserve(length);
        System.arraycopy(from, start, bytes, size, length);
        addRange(size, size + length);
        size += length;
    }

    /** Adds the next value of the current record: these bytes. */
    public void add(byte[] value) {
        add(value, 0, value.length);
    }

    /**
     * Adds the next value of the current record: this text in UTF-8.
     *
     * @return false, with nothing added, if the text holds half of a surrogate pair and so has no UTF-8
     */
    public boolean add(CharSequence text) {
        int start = size;
        if (!append(text)) {
            return false;
        }
        addRange(start, size);
        return true;
    }

    /**
     * Puts a text in UTF-8 behind the bytes that are in use; {@link #addRange} or {@link #addRow} makes it a value.
     *
     * @return false, with nothing put there, if the text holds half of a surrogate pair and so has no UTF-8
     */
    public boolean append(CharSequence text) {
        // three bytes a character at most; a huge text is measured first
        reserve(text.length() > TARGET_BYTES ? Utf8.length(text) : text.length() * 3);
        return encoded(Utf8.encode(text, bytes, size));
    }

    /** As {@link #append(CharSequence)}, for so many characters of an array. */
    public boolean append(char[] chars, int from, int length) {
        if (length > TARGET_BYTES) {
            return append(CharBuffer.wrap(chars, from, length));
        }
        reserve(length * 3);
        return encoded(Utf8.encode(chars, from, length, bytes, size));
    }

    private boolean encoded(int end) {
        if (end < 0) {
            return false;
        }
        size = end;
        return true;
    }

    /** Adds the next value of the current record: a whole number's digits. */
    public void add(long number) {
        reserve(20);
        int end = Digits.write(number, bytes, size);
        addRange(size, end);
        size = end;
    }

    /**
     * Adds the next value of the current record, which stands in {@link #bytes()} from {@link #size()} on; room for it was
     * {@linkplain #reserve reserved}.
     */
    public void addUpTo(int end) {
        addRange(size, end);
        size = end;
    }

    /** Adds the next value of the current record: bytes that are in {@link #bytes()} already. */
    public void addRange(int start, int end) {
        if (cell == ends.length) {
            starts = Arrays.copyOf(starts, cell * 2);
            ends = Arrays.copyOf(ends, cell * 2);
        }
        starts[cell] = start;
        ends[cell] = end;
        cell++;
    }

    /**
     * Adds a whole record whose values are in {@link #bytes()} already.
     *
     * @param valueStarts where its values begin
     * @param valueEnds where they end; negative for a null
     * @param line its line in the file
     */
    public void addRow(int[] valueStarts, int[] valueEnds, long line) {
        if (cell + columns > ends.length) {
            int room = Math.max(ends.length * 2, cell + columns);
            starts = Arrays.copyOf(starts, room);
            ends = Arrays.copyOf(ends, room);
        }
        System.arraycopy(valueStarts, 0, starts, cell, columns);
        System.arraycopy(valueEnds, 0, ends, cell, columns);
        cell += columns;
        endRow(line);
    }

    /** Adds a null as the next value of the current record. */
    public void addNull() {
        addRange(0, NULL);
    }

    /**
     * Ends the current record.
     *
     * @param line its line in the file, or its number
     */
    public void endRow(long line) {
        if (cell != (rows + 1) * columns) {
            throw new IllegalStateException("a record has " + (cell - rows * columns) + " of " + columns + " values");
        }
        if (rows == lines.length) {
            lines = Arrays.copyOf(lines, rows * 2);
        }
        lines[rows++] = line;
        sizeBefore = size;
    }

    /**
     * Forgets the values of the record that was not ended, and their bytes: a batch that is full of none but dropped
     * records would look like the end.
     */
    public void dropRow() {
        cell = rows * columns;
        size = sizeBefore;
    }

    /** Puts a copy of these bytes in the place of a finished record's value. */
    public void replace(int row, int column, byte[] value) {
        reserve(value.length);
        System.arraycopy(value, 0, bytes, size, value.length);
        int at = row * columns + column;
        starts[at] = size;
        size += value.length;
        ends[at] = size;
    }

    /** Puts a null in the place of a finished record's value. */
    public void replaceByNull(int row, int column) {
        int at = row * columns + column;
        starts[at] = 0;
        ends[at] = NULL;
    }

    /**
     * Takes records out again, and keeps the others in their order.
     *
     * @param unwanted which; at least as long as the batch has records
     */
    public void removeRows(boolean[] unwanted) {
        int kept = 0;
        for (int row = 0; row < rows; row++) {
            if (!unwanted[row]) {
                if (kept < row) {
                    System.arraycopy(starts, row * columns, starts, kept * columns, columns);
                    System.arraycopy(ends, row * columns, ends, kept * columns, columns);
                    lines[kept] = lines[row];
                }
                kept++;
            }
        }
        rows = kept;
        cell = rows * columns;
    }
}
