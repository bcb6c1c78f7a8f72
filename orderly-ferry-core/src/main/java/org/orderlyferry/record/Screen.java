package org.orderlyferry.record;

/**
 * Takes records out that a target can't hold, where somebody wants to go on without them. One is for one thread; it may be
 * another one than writes.
 */
@FunctionalInterface
public interface Screen {

    /** Takes them out of a batch, and tells each with its reason; the others stay as they are. */
    void screen(RecordBatch batch, Rejects rejects);
}
