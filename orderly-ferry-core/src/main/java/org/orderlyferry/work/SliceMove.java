package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.function.Supplier;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;

/**
 * One attempt at moving a slice. The reader is closed before what was written is made to last, so that whatever fails
 * after that, or in ending what is already done, can't make anybody move the slice a second time.
 */
final class SliceMove {

    private final Mover mover;
    private final Runnable check;
    private final TableName table;
    private final List<Finding> findings = new ArrayList<>();

    SliceMove(TableName table, Mover mover, Runnable check) {
        this.table = table;
        this.mover = mover;
        this.check = check;
    }

    /**
     * What became of a slice; a result counts once.
     *
     * @param written how many records
     * @param leftOut how many a condition has left out
     * @param bytes of the values that were written
     */
    record Result(long written, long rejected, long leftOut, long bytes, Tally tally, List<Finding> findings) {}

    /**
     * Moves.
     *
     * @param opening gives the reader; its rejects are heard of by the attempt
     * @param writing gives the writer, once the reader is there
     */
    Result run(Rejects rejects, Function<Rejects, RecordReader> opening, Function<TallyTaker, RecordWriter> writing) {
        Rejects.Attempt heard = rejects.attempt();
        try {
            Result result = attempt(heard, () -> opening.apply(heard), writing);
            heard.keep();
            return result;
        } catch (PlaceException e) {
            if (e.isLost()) {
                heard.drop();
            } else {
                heard.keep();
            }
            throw e;
        } catch (FerryException e) {
            heard.keep();
            throw e;
        }
    }

    private Result attempt(
            Rejects.Attempt heard, Supplier<RecordReader> opening, Function<TallyTaker, RecordWriter> writing) {
        RecordWriter writer = null;
        TallyTaker taker;
        long leftOut;
        try {
            // opened first: a table that may not be read leaves no file
            try (RecordReader reader = opening.get()) {
                taker = TallyTaker.of(reader.table().columns());
                writer = writing.apply(taker);
                mover.move(reader, taker, writer);
                findings.addAll(reader.findings());
                leftOut = reader.leftOut();
            }
            check.run();
            writer.finish();
        } catch (RuntimeException e) {
            closeAfter(writer, e);
            throw e;
        }
        closeLasting(writer);
        return new Result(mover.rows(), heard.count(), leftOut, mover.bytes(), taker.tally(), findings);
    }

    private static void closeAfter(RecordWriter writer, RuntimeException failure) {
        if (writer != null) {
            try {
                writer.close();
            } catch (RuntimeException second) {
                failure.addSuppressed(second);
            }
        }
    }

    /** What was made to last stays so, also if its writer can't be ended as it should. */
    private void closeLasting(RecordWriter writer) {
        try {
            writer.close();
        } catch (FerryException e) {
            findings.add(Finding.of(table, "its records are in, but " + e.getMessage()));
        }
    }
}
