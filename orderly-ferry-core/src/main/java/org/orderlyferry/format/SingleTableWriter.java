package org.orderlyferry.format;

import java.io.OutputStream;
import java.util.List;
import java.util.stream.Collectors;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;

/** Writes a file that has room for one table. */
public final class SingleTableWriter implements TablesWriter {

    private final RecordWriter writer;

    /**
     * Begins a file.
     *
     * @throws UsageException if there is not just one table
     */
    public SingleTableWriter(Format format, OutputStream out, String shown, List<TableDefinition> tables) {
        if (tables.size() != 1) {
            throw new UsageException("a file of " + format.name() + " holds one table, and these are " + tables.size()
                    + ": " + tables.stream().map(t -> t.name().toString()).collect(Collectors.joining(", "))
                    + "; name one of them, or give a folder instead of " + shown);
        }
        this.writer = format.writer(out, tables.get(0));
    }

    @Override
    public RecordWriter writer(TableDefinition table) {
        return new RecordWriter() {
            @Override
            public void write(RecordBatch batch) {
                writer.write(batch);
            }

            @Override
            public void finish() {
                writer.finish();
            }

            @Override
            public void close() {
                // the file is closed as a whole
            }
        };
    }

    @Override
    public void finish() {
        // the table's own end was the file's
    }

    @Override
    public void close() {
        writer.close();
    }
}
