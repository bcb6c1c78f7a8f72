package org.orderlyferry.record;

import java.util.function.Supplier;
import org.orderlyferry.problem.BadValueException;

/**
 * Takes records out that a target can't hold, where somebody wants to go on without them. One is for one thread; it may be
 * another one than writes.
 */
@FunctionalInterface
public interface Screen {

    /** Takes them out of a batch, and tells each with its reason; the others stay as they are. */
    void screen(RecordBatch batch, Rejects rejects);

    /** Looks at a record, and writes nothing. */
    @FunctionalInterface
    interface Look {

        /**
         * Looks at it.
         *
         * @throws BadValueException if it can't be held
         */
        void at(RecordBatch batch, int row);
    }

    /** Takes out what a look at it refuses. */
    static Screen by(Look look) {
        return (batch, rejects) -> {
            boolean[] unwanted = new boolean[batch.rows()];
            boolean any = false;
            for (int row = 0; row < unwanted.length; row++) {
                try {
                    look.at(batch, row);
                } catch (BadValueException e) {
                    rejects.reject(e);
                    unwanted[row] = true;
                    any = true;
                }
            }
            if (any) {
                batch.removeRows(unwanted);
            }
        };
    }

    /**
     * Takes out what a writer refuses, for targets that find out by writing.
     *
     * @param scratch gives a writer of the same kind that keeps nothing; a new one after each refusal
     */
    static Screen byWriting(Supplier<RecordWriter> scratch) {
        return new WrittenScreen(scratch);
    }
}
