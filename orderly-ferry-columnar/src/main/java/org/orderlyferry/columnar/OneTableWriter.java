package org.orderlyferry.columnar;

import java.io.IOException;
import java.io.OutputStream;
import java.util.Optional;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Screen;
import org.slf4j.LoggerFactory;

/**
 * Writes a file of one table by a library that takes whole records, made of values that are looked at first.
 *
 * @param <R> such a record
 */
public abstract class OneTableWriter<R> implements TablesWriter {

    private final OutputStream out;
    private final String shown;
    private boolean ended;
    private boolean closed;

    /** A writer to a stream that it closes. */
    protected OneTableWriter(OutputStream out, String shown) {
        this.out = out;
        this.shown = shown;
    }

    /**
     * A record for the library.
     *
     * @throws org.orderlyferry.problem.BadValueException if the file can't hold one of its values
     */
    protected abstract R record(Records batch, int row);

    /** Hands a record to the library. */
    protected abstract void append(R record) throws IOException;

    /** Lets the library end the file. */
    protected abstract void end() throws IOException;

    @Override
    public final RecordWriter writer(TableDefinition of) {
        return new RecordWriter() {
            @Override
            public void write(RecordBatch batch) {
                try {
                    for (int row = 0; row < batch.rows(); row++) {
                        append(record(batch, row));
                    }
                } catch (IOException e) {
                    throw failed(e);
                }
            }

            @Override
            public void finish() {
                // the table's end is the file's
            }

            @Override
            public void close() {
                // the file is closed as a whole
            }
        };
    }

    @Override
    public final Optional<Screen> screen(TableDefinition of) {
        return Optional.of(Screen.by(this::record));
    }

    /** What a failure to write means: libraries say where it was, and the disk why. */
    protected final PlaceException failed(IOException e) {
        return new PlaceException(shown, "can't be written: " + first(e).getMessage(), e);
    }

    /** The cause of all causes. */
    static Throwable first(Throwable e) {
        Throwable cause = e;
        while (cause.getCause() != null && cause.getCause() != cause) {
            cause = cause.getCause();
        }
        return cause;
    }

    @Override
    public final void finish() {
        try {
            ended = true;
            end();
            out.flush();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    /** A file that wasn't ended is none. */
    @Override
    public final void close() {
        if (closed) {
            return;
        }
        closed = true;
        try {
            out.close();
        } catch (IOException e) {
            if (ended) {
                throw failed(e);
            }
            LoggerFactory.getLogger(OneTableWriter.class).debug("{} was not finished", shown, e);
        }
    }
}
