package org.orderlyferry.format.csv;

import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.orderlyferry.io.DecodedInput;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.RecordBatch;

/**
 * A delimited file as UTF-8 bytes, chunk by chunk: takes off a byte-order mark, turns other encodings into UTF-8, and
 * puts the start of a record that didn't end yet in front of the next chunk.
 */
final class CsvInput implements AutoCloseable {

    private static final byte[] UTF_8_MARK = {(byte) 0xEF, (byte) 0xBB, (byte) 0xBF};

    /** One record may take this share of the heap: beyond it, a quote was not closed, or the heap is too small. */
    private static final int HEAP_SHARE = 3;

    private static final int LARGE = 16 * 1024 * 1024;

    private final String source;
    private final String table;
    private final CsvDialect dialect;
    private final CsvScanner scanner;
    private final ReadAhead file;
    private byte[] carry = new byte[0];
    private int carryFrom;
    private int carried;
    private Chunk chunk;
    private boolean started;
    private boolean ended;
    /** Where the chunk's first record begins, in the file and in the chunk. */
    private long begun;

    private int begunAt;

    CsvInput(InputStream in, String source, String table, CsvDialect dialect) {
        this(in, source, table, dialect, 1);
    }

    /**
     * A file, or a piece of one.
     *
     * @param firstLine the line on which its bytes begin: a piece that isn't the first has no byte-order mark
     */
    CsvInput(InputStream in, String source, String table, CsvDialect dialect, long firstLine) {
        this.started = firstLine > 1;
        this.source = source;
        this.table = table;
        this.dialect = dialect;
        InputStream utf8 = dialect.encoding().equals(StandardCharsets.UTF_8)
                ? in
                : new DecodedInput(in, dialect.encoding(), this::origin);
        this.file = new ReadAhead(utf8, source, new MarkFinder((byte) dialect.delimiter(), (byte) dialect.quote()));
        this.scanner = new CsvScanner(dialect, firstLine, this::origin);
    }

    Origin origin(long line) {
        return new Origin(table, source, line, true);
    }

    String source() {
        return source;
    }

    CsvDialect dialect() {
        return dialect;
    }

    CsvScanner scanner() {
        return scanner;
    }

    /** Where the record begins that is being handed on, in bytes of UTF-8 from the file's beginning. */
    long place() {
        return begun + scanner.consumed() - begunAt;
    }

    /** Reads the first record as column names. */
    List<String> header() {
        List<String> names = new ArrayList<>();
        fill(new RecordBatch(), 1, (record, bytes) -> {
            if (record.fault() != null) {
                throw new MalformedFileException(origin(record.line()), record.fault());
            }
            for (int field = 0; field < record.fields(); field++) {
                names.add(record.text(bytes, field, (byte) dialect.quote()));
            }
        });
        if (names.isEmpty()) {
            throw new MalformedFileException(origin(1), "the file is empty, without even a header");
        }
        return names;
    }

    /**
     * Hands on the whole records of one chunk, or of as many as it takes to have one. The batch gets the chunk's bytes.
     *
     * @param most how many records to hand on at most; the others come next time
     * @return whether there may be more
     */
    boolean fill(RecordBatch batch, int most, CsvScanner.RecordSink sink) {
        int records = 0;
        while (records == 0 && !ended) {
            if (chunk == null) {
                chunk = nextChunk();
            }
            byte[] spare = batch.exchange(chunk.bytes, chunk.end);
            records = scanner.scan(most, sink);
            if (records == most && scanner.consumed() < chunk.end) {
                return true;
            }
            ended = chunk.last;
            if (records == 0 && chunk.end - scanner.consumed() > LARGE) {
                // a huge value grows on: its array is kept rather than copied, and the batch has its own again
                carry = batch.exchange(spare, 0);
                carryFrom = scanner.consumed();
                carried = chunk.end - carryFrom;
                chunk.bytes = new byte[0];
            } else {
                keep(chunk.bytes, scanner.consumed(), chunk.end);
                chunk.bytes = spare;
            }
            file.release(chunk);
            chunk = null;
        }
        return !ended;
    }

    private Chunk nextChunk() {
        Chunk next = file.next();
        int from = next.start;
        begun += scanner.consumed() - begunAt;
        if (!started) {
            started = true;
            from += markLength(next);
            begun = from - next.start;
        }
        if (carried > Chunk.HEADROOM) {
            next = large(next);
            from = 0;
        } else {
            from -= carried;
            System.arraycopy(carry, carryFrom, next.bytes, from, carried);
        }
        begunAt = from;
        scanner.start(next, from);
        return next;
    }

    /**
     * An unfinished record that is too long for a chunk's headroom, together with at least as many bytes again; and with all that
     * can't end the value in which it stands, since going through it anew from its beginning is what costs.
     */
    private Chunk large(Chunk first) {
        long most = Math.min(Integer.MAX_VALUE / 4, Runtime.getRuntime().maxMemory() / HEAP_SHARE);
        int enough = carried + more(carried);
        Chunk whole = new Chunk(room(carry, carryFrom, carried, most), 0, carried);
        carry = new byte[0];
        carryFrom = 0;
        OpenValue open = scanner.openValue();
        Chunk next = first;
        while (true) {
            int length = next.end - next.start;
            if (whole.end + length + RecordBatch.SLACK > whole.bytes.length) {
                whole.bytes = room(whole.bytes, 0, whole.end, most);
            }
            System.arraycopy(next.bytes, next.start, whole.bytes, whole.end, length);
            if (next.bad >= 0 && whole.bad < 0) {
                whole.bad = whole.end + next.bad - next.start;
            }
            whole.end += length;
            whole.last = next.last;
            open.follow(next);
            file.release(next);
            if (whole.last || whole.bad >= 0 || whole.end >= enough && !open.isSure()) {
                return whole;
            }
            next = file.next();
        }
    }

    /** Twice as much again, so that going through it again costs little; a quarter when memory counts for more. */
    private static int more(int length) {
        return length > LARGE ? length / 4 : length;
    }

    /** The beginning of a record, with room for more. */
    private byte[] room(byte[] from, int at, int length, long most) {
        if (length >= most) {
            throw tooLarge(length);
        }
        try {
            byte[] bytes = new byte[length + more(length) + 2 * Chunk.SIZE + RecordBatch.SLACK];
            System.arraycopy(from, at, bytes, 0, length);
            return bytes;
        } catch (OutOfMemoryError e) {
            // one huge array that wasn't to be had: everything else is as it was
            throw tooLarge(length);
        }
    }

    private MalformedFileException tooLarge(int length) {
        return new MalformedFileException(
                origin(scanner.line()),
                "a record of more than " + (length >> 20)
                        + " MB begins here: a quote isn't closed, or this process needs more memory (-Xmx)");
    }

    private int markLength(Chunk first) {
        byte[] bytes = first.bytes;
        int start = first.start;
        if (first.end - start >= 2
                && (bytes[start] == (byte) 0xFF && bytes[start + 1] == (byte) 0xFE
                        || bytes[start] == (byte) 0xFE && bytes[start + 1] == (byte) 0xFF)) {
            throw new MalformedFileException(
                    origin(1),
                    "the file begins with the byte-order mark of UTF-16, but is to be read as "
                            + dialect.encoding().name() + "; give its encoding");
        }
        int end = start + UTF_8_MARK.length;
        return end <= first.end && Arrays.equals(bytes, start, end, UTF_8_MARK, 0, UTF_8_MARK.length)
                ? UTF_8_MARK.length
                : 0;
    }

    private void keep(byte[] bytes, int from, int end) {
        carried = end - from;
        if (carry.length < carried) {
            carry = new byte[Math.max(carried, Chunk.HEADROOM)];
        }
        carryFrom = 0;
        System.arraycopy(bytes, from, carry, 0, carried);
    }

    @Override
    public void close() {
        file.close();
    }
}
