package org.orderlyferry.record;

import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;

/** Looks at records by writing them to where nothing is kept. A writer that has refused one isn't used again. */
final class WrittenScreen implements Screen {

    private final Supplier<RecordWriter> scratch;
    private final RecordBatch alone = new RecordBatch();
    private @Nullable RecordWriter writer;

    WrittenScreen(Supplier<RecordWriter> scratch) {
        this.scratch = scratch;
    }

    @Override
    public void screen(RecordBatch batch, Rejects rejects) {
        try {
            write(batch);
        } catch (BadValueException e) {
            Screen.by(this::alone).screen(batch, rejects);
        }
    }

    private void alone(RecordBatch batch, int row) {
        Origin origin = batch.origin(row);
        alone.start(batch.columns(), origin.table(), origin.source(), origin.isFile());
        for (int column = 0; column < batch.columns(); column++) {
            if (batch.isNull(row, column)) {
                alone.addNull();
            } else {
                alone.add(batch.bytes(), batch.start(row, column), batch.end(row, column));
            }
        }
        alone.endRow(origin.line());
        write(alone);
    }

    private void write(RecordBatch batch) {
        if (writer == null) {
            writer = scratch.get();
        }
        try {
            writer.write(batch);
        } catch (BadValueException e) {
            writer = null;
            throw e;
        }
    }
}
