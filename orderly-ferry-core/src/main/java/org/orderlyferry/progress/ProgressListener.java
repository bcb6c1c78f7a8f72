package org.orderlyferry.progress;

import java.util.List;
import org.orderlyferry.model.TableName;

/**
 * Hears how the work goes on, from one thread at a time, though not always the same; the work waits for the answer, so it
 * should be quick.
 */
public interface ProgressListener {

    /** A listener that does nothing. */
    ProgressListener NONE = new ProgressListener() {};

    /** The stages of the work, in their order. */
    enum Stage {
        /** Checksums of an export set are checked. */
        CHECKING,
        /** Records are looked at for keys and references that they would break. */
        KEYS,
        /** What there is to move is looked up, and large tables are cut into slices. */
        PLANNING,
        /** Records move. */
        MOVING,
        /** Keys, references and indexes are added, or the set is completed. */
        FINISHING
    }

    /**
     * The work is about to begin.
     *
     * @param tables which tables, in their order
     * @param rows how many records they have together
     */
    default void planned(List<TableName> tables, long rows) {}

    /** What an export is about to do; told before the first record moves. */
    default void plan(Plan plan) {}

    /** A slice of a table begins to move. */
    default void sliceStarted(TableName table) {}

    /** A slice of a table has moved. */
    default void sliceFinished(TableName table) {}

    /** A slice lost its connection and is tried again from its start. */
    default void tryingAgain(TableName table, String why, long pauseMillis) {}

    /** A stage of the work begins. */
    default void stage(Stage stage) {}

    /**
     * A table's records begin to move.
     *
     * @param rows how many it has
     */
    default void tableStarted(TableName table, long rows) {}

    /**
     * Some more of a table's records have moved.
     *
     * @param rows how many
     * @param bytes the size of their values
     */
    default void moved(TableName table, long rows, long bytes) {}

    /**
     * Some more of a table's records were looked at, and need not move.
     *
     * @param rows how many
     */
    default void looked(TableName table, long rows) {}

    /** All of a table's records have moved. */
    default void tableFinished(TableName table, long rows) {}
}
