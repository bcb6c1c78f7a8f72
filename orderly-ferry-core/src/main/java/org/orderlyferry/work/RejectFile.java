package org.orderlyferry.work;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.CsvFormat;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;

/**
 * Keeps rejected records in a CSV file, each with its table, file, line, column, value and reason, and with its key where it
 * comes from a place that has no lines. Those of an attempt
 * stand in a file of their own beside it until the attempt counts. Safe for use by several threads, each with an attempt
 * of its own.
 */
@NullMarked
public final class RejectFile implements Rejects, AutoCloseable {

    private static final String KEY = "key";

    /** Where the last column stands that has always been there. */
    private static final int REASON = 5;

    private static final TableDefinition TABLE = TableDefinition.named("rejects")
            .column("table", LogicalType.CLOB)
            .column("file", LogicalType.CLOB)
            .column("line", LogicalType.BIGINT)
            .column("column", LogicalType.CLOB)
            .column("value", LogicalType.CLOB)
            .column("reason", LogicalType.CLOB)
            .column(KEY, LogicalType.CLOB)
            .build();

    private final Path file;
    private final RejectLines lines;
    private long count;
    private int attempts;

    /**
     * Begins the file; what was there is replaced.
     *
     * @throws PlaceException if it can't be made
     */
    public RejectFile(Path file) {
        this.file = file;
        this.lines = new RejectLines(file, true);
    }

    /**
     * Reads such a file: table, file, line, column, value, reason and key of each record, in this order; one that an earlier
     * version has written has no keys.
     *
     * @throws PlaceException if it can't be opened
     */
    public static RecordReader read(Path file) {
        CsvFormat format = new CsvFormat(CsvDialect.RFC_4180);
        try {
            List<String> columns;
            try (InputStream in = Files.newInputStream(file)) {
                columns = format.header(in, file.toString());
            }
            TableDefinition table = columns.contains(KEY)
                    ? TABLE
                    : TABLE.withColumns(TABLE.columnNames().subList(0, REASON + 1));
            return format.reader(Files.newInputStream(file), file.toString(), table, table.columnNames());
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    @Override
    public synchronized void reject(FerryException why) {
        lines.add(why);
        count++;
    }

    @Override
    public synchronized Attempt attempt() {
        return new Kept(file.resolveSibling(file.getFileName() + ".attempt" + ++attempts));
    }

    private synchronized void take(Path from, long more) throws IOException {
        lines.append(from);
        count += more;
    }

    /** How many records were rejected. */
    public synchronized long count() {
        return count;
    }

    /** Where it stands. */
    public Path file() {
        return file;
    }

    @Override
    public synchronized void close() {
        lines.close();
    }

    /** An attempt's rejects, in a file that is made with the first of them. */
    private final class Kept implements Attempt {

        private final Path own;
        private @Nullable RejectLines heard;
        private long heardCount;

        Kept(Path own) {
            this.own = own;
        }

        /** A file is taken apart on a thread of its own, and its values are looked at on another. */
        @Override
        public synchronized void reject(FerryException why) {
            if (heard == null) {
                heard = new RejectLines(own, false);
            }
            heard.add(why);
            heardCount++;
        }

        @Override
        public synchronized long count() {
            return heardCount;
        }

        @Override
        public void keep() {
            end(true);
        }

        @Override
        public void drop() {
            end(false);
        }

        private synchronized void end(boolean kept) {
            if (heard == null) {
                return;
            }
            heard.close();
            heard = null;
            try {
                if (kept) {
                    take(own, heardCount);
                }
                Files.delete(own);
            } catch (IOException e) {
                throw new PlaceException(file.toString(), "can't be written: " + e.getMessage(), e);
            }
        }
    }

    /** A file of lines, one a reject. */
    private static final class RejectLines {

        private final Path path;
        private final java.io.OutputStream out;
        private final RecordWriter writer;
        private final RecordBatch batch = new RecordBatch();

        RejectLines(Path path, boolean header) {
            this.path = path;
            try {
                this.out = Files.newOutputStream(path);
            } catch (IOException e) {
                throw new PlaceException(path.toString(), "can't be made: " + e.getMessage(), e);
            }
            this.writer = new CsvFormat(header ? CsvDialect.RFC_4180 : CsvDialect.RFC_4180.withHeader(false))
                    .writer(out, TABLE);
        }

        void add(FerryException why) {
            if (why instanceof BadValueException value) {
                write(value.origin(), value.column(), value.value(), value.reason());
            } else if (why instanceof MalformedFileException malformed) {
                write(malformed.origin(), null, null, malformed.what());
            } else if (why instanceof BadRecordException record) {
                write(record.origin(), null, record.key(), record.reason());
            } else {
                // not about one record
                throw why;
            }
        }

        private void write(Origin origin, @Nullable String column, @Nullable String value, String reason) {
            batch.start(TABLE.columns().size(), "rejects", path.toString(), true);
            for (String text : new String[] {
                origin.table(),
                origin.source(),
                Long.toString(origin.line()),
                column,
                value,
                reason,
                origin.key().isEmpty() ? null : origin.key()
            }) {
                if (text == null) {
                    batch.addNull();
                } else if (!batch.add(text)) {
                    batch.add(escaped(text));
                }
            }
            batch.endRow(0);
            writer.write(batch);
            batch.shrink();
        }

        void append(Path from) throws IOException {
            writer.finish();
            Files.copy(from, out);
            out.flush();
        }

        void close() {
            writer.finish();
            writer.close();
        }

        /** A text whose halves of surrogate pairs no file can hold, with these as JSON and Java write them. */
        private static String escaped(String text) {
            StringBuilder escaped = new StringBuilder();
            text.codePoints()
                    .forEach(point -> escaped.append(
                            Character.getType(point) == Character.SURROGATE
                                    ? "\\u" + Integer.toHexString(point)
                                    : Character.toString(point)));
            return escaped.toString();
        }
    }
}
