package org.orderlyferry.transfer;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.CsvFormat;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;

/**
 * Keeps rejected records in a CSV file, each with its table, file, line, column, value and reason, and counts them. Safe
 * for use by several threads.
 */
public final class RejectFile implements Rejects, AutoCloseable {

    private static final TableDefinition TABLE = TableDefinition.named("rejects")
            .column("table", LogicalType.CLOB)
            .column("file", LogicalType.CLOB)
            .column("line", LogicalType.BIGINT)
            .column("column", LogicalType.CLOB)
            .column("value", LogicalType.CLOB)
            .column("reason", LogicalType.CLOB)
            .build();

    private final Path file;
    private final Map<String, Long> counts = new LinkedHashMap<>();
    private final RecordWriter writer;
    private final RecordBatch batch = new RecordBatch();

    /**
     * Begins the file; what was there is replaced.
     *
     * @throws PlaceException if it can't be made
     */
    public RejectFile(Path file) {
        this.file = file;
        try {
            this.writer = new CsvFormat(CsvDialect.RFC_4180).writer(Files.newOutputStream(file), TABLE);
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be made: " + e.getMessage(), e);
        }
    }

    @Override
    public synchronized void reject(FerryException why) {
        Origin origin;
        if (why instanceof BadValueException value) {
            origin = value.origin();
            write(origin, value.column(), value.value(), value.reason());
        } else if (why instanceof MalformedFileException malformed) {
            origin = malformed.origin();
            write(origin, null, null, malformed.what());
        } else {
            // not about one record
            throw why;
        }
        counts.merge(origin.table(), 1L, Long::sum);
    }

    private void write(Origin origin, String column, String value, String reason) {
        batch.start(TABLE.columns().size(), "rejects", file.toString(), true);
        for (String text :
                new String[] {origin.table(), origin.source(), Long.toString(origin.line()), column, value, reason}) {
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

    /** A text whose halves of surrogate pairs no file can hold, with these as JSON and Java write them. */
    private static String escaped(String text) {
        StringBuilder escaped = new StringBuilder();
        text.codePoints()
                .forEach(point -> escaped.append(
                        Character.getType(point) == Character.SURROGATE
                                ? String.format("\\u%04x", point)
                                : Character.toString(point)));
        return escaped.toString();
    }

    /** How many records were rejected of each table. */
    public synchronized Map<String, Long> counts() {
        return Map.copyOf(counts);
    }

    /** How many records were rejected. */
    public synchronized long count() {
        return counts.values().stream().mapToLong(Long::longValue).sum();
    }

    public Path file() {
        return file;
    }

    @Override
    public synchronized void close() {
        writer.finish();
        writer.close();
    }
}
