package org.orderlyferry.format.csv;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;

/**
 * A delimited file as UTF-8 bytes: takes off a byte-order mark, turns other encodings into UTF-8, and keeps the start of
 * a record that didn't end yet for the next batch.
 */
final class CsvInput implements AutoCloseable {

    private static final byte[] UTF_8_MARK = {(byte) 0xEF, (byte) 0xBB, (byte) 0xBF};

    /** One record may take this share of the heap: beyond it, a quote was not closed, or the heap is too small. */
    private static final int HEAP_SHARE = 4;

    private final InputStream in;
    private final String source;
    private final String table;
    private final CsvDialect dialect;
    private final CsvScanner scanner;
    private byte[] carry = new byte[0];
    private int carried;
    private boolean ended;
    private boolean started;

    CsvInput(InputStream in, String source, String table, CsvDialect dialect) {
        this.source = source;
        this.table = table;
        this.dialect = dialect;
        this.in = dialect.encoding().equals(StandardCharsets.UTF_8)
                ? in
                : new ToUtf8InputStream(in, dialect.encoding(), this::origin);
        this.scanner = new CsvScanner(dialect, this::origin);
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

    /** Reads the first record as column names. */
    List<String> header() {
        RecordBatch batch = new RecordBatch();
        batch.start(1, table, source, true);
        List<String> names = new ArrayList<>();
        fill(batch, 1, (record, bytes) -> {
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
     * Puts bytes into a batch until they hold at least one whole record, and hands each whole record on.
     *
     * @param most how many records to hand on at most
     */
    void fill(RecordBatch batch, int most, CsvScanner.RecordSink sink) {
        batch.reserve(Math.max(carried, RecordBatch.TARGET_BYTES));
        System.arraycopy(carry, 0, batch.bytes(), 0, carried);
        int length = carried;
        carried = 0;
        while (true) {
            length = readUpTo(batch.bytes(), length);
            if (!started) {
                length = withoutMark(batch.bytes(), length);
                started = true;
            }
            batch.size(length);
            int records = scanner.scan(batch.bytes(), length, ended, most, sink);
            if (records > 0 || ended) {
                keep(batch.bytes(), scanner.consumed(), length);
                return;
            }
            grow(batch, length);
        }
    }

    private void grow(RecordBatch batch, int length) {
        long most = Math.min(Integer.MAX_VALUE / 2, Runtime.getRuntime().maxMemory() / HEAP_SHARE);
        if (length >= most) {
            throw new MalformedFileException(
                    origin(scanner.line()),
                    "a record of more than " + (length >> 20) + " MB begins here: a quote isn't closed, or this process"
                            + " needs more memory (-Xmx)");
        }
        batch.size(length);
        batch.reserve(length);
    }

    private int readUpTo(byte[] bytes, int from) {
        int length = from;
        int room = bytes.length - RecordBatch.SLACK;
        try {
            while (!ended && length < room) {
                int count = in.read(bytes, length, room - length);
                if (count < 0) {
                    ended = true;
                } else {
                    length += count;
                }
            }
        } catch (IOException e) {
            throw new PlaceException(source, "can't be read: " + e.getMessage(), e);
        }
        return length;
    }

    private int withoutMark(byte[] bytes, int length) {
        if (length >= 2
                && (bytes[0] == (byte) 0xFF && bytes[1] == (byte) 0xFE
                        || bytes[0] == (byte) 0xFE && bytes[1] == (byte) 0xFF)) {
            throw new MalformedFileException(
                    origin(1),
                    "the file begins with the byte-order mark of UTF-16, but is to be read as "
                            + dialect.encoding().name() + "; give its encoding");
        }
        int mark = UTF_8_MARK.length;
        if (length < mark || !Arrays.equals(bytes, 0, mark, UTF_8_MARK, 0, mark)) {
            return length;
        }
        System.arraycopy(bytes, mark, bytes, 0, length - mark);
        return length - mark;
    }

    private void keep(byte[] bytes, int from, int length) {
        carried = length - from;
        if (carry.length < carried) {
            carry = new byte[carried + RecordBatch.SLACK];
        }
        System.arraycopy(bytes, from, carry, 0, carried);
    }

    @Override
    public void close() {
        try {
            in.close();
        } catch (IOException e) {
            throw new PlaceException(source, "can't be closed: " + e.getMessage(), e);
        }
    }
}
