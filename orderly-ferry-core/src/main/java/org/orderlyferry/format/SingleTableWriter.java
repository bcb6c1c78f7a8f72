package org.orderlyferry.format;

import java.io.OutputStream;
import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;

/** Writes a file that has room for one table. */
@API(status = API.Status.INTERNAL)
public final class SingleTableWriter implements TablesWriter {

    private final Format format;
    private final RecordWriter writer;
    private final String shown;
    private final boolean holdsAll;

    /**
     * Begins a file.
     *
     * @param holdsAll whether such a file holds every value
     * @throws UsageException if there is not just one table
     */
    public SingleTableWriter(
            Format format, OutputStream out, String shown, List<TableDefinition> tables, boolean holdsAll) {
        if (tables.size() != 1) {
            throw new UsageException("a file of " + format.name() + " holds one table, and these are " + tables.size()
                    + ": "
                    + Listed.of(tables.stream().map(TableDefinition::name).toList())
                    + "; name one of them, or give a folder instead of " + shown);
        }
        this.format = format;
        this.shown = shown;
        this.holdsAll = holdsAll;
        this.writer = format.writer(out, tables.get(0));
    }

    @Override
    public RecordWriter writer(TableDefinition table) {
        return new RecordWriter() {
            @Override
            public void write(RecordBatch batch) {
                inFile(() -> writer.write(batch));
            }

            @Override
            public void finish() {
                inFile(writer::finish);
            }

            @Override
            public void close() {
                // the file is closed as a whole
            }
        };
    }

    @Override
    public Optional<Screen> screen(TableDefinition table) {
        return holdsAll
                ? Optional.empty()
                : Optional.of(Screen.byWriting(() -> format.writer(OutputStream.nullOutputStream(), table)));
    }

    @Override
    public void finish() {
        // the table's own end was the file's
    }

    @Override
    public void close() {
        inFile(writer::close);
    }

    /** A writer of a table knows nothing of its file's name; whoever reads the message has to. */
    private void inFile(Runnable writing) {
        try {
            writing.run();
        } catch (PlaceException e) {
            throw new PlaceException(shown, e.getMessage(), e);
        }
    }
}
