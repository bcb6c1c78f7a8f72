package org.orderlyferry.progress;

import java.util.List;
import org.orderlyferry.model.TableName;

/** Hears how the work goes on; called by the thread that does it, so an answer should be quick. */
public interface ProgressListener {

    /** A listener that does nothing. */
    ProgressListener NONE = new ProgressListener() {};

    /** The stages of the work, in their order. */
    enum Stage {
        /** Checksums of an export set are checked. */
        CHECKING,
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

    /** All of a table's records have moved. */
    default void tableFinished(TableName table, long rows) {}
}
