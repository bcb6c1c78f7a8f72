package org.orderlyferry.work;

import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.problem.PlaceException;

/** Runs tasks, in any order, as many at once as suits it; each until it is done, or the work ends. */
@API(status = API.Status.INTERNAL)
public interface Engine {

    /**
     * Runs them all.
     *
     * @param events hears of each task, from any thread
     * @throws org.orderlyferry.problem.FerryException what the first task failed with
     */
    void run(List<SliceTask> tasks, Events events);

    /** What becomes of tasks. Called by several threads at once. */
    interface Events {

        /** Whether a task is still wanted; asked before it begins. */
        boolean isWanted(SliceTask task);

        /** A task begins. */
        void started(SliceTask task);

        /**
         * Some of a task's records have moved. Told by engines whose tasks are run by other processes, which may have to begin
         * again.
         *
         * @param rows how many records of it have, as far as one knows
         * @param bytes the size of their values
         */
        default void moved(SliceTask task, long rows, long bytes) {}

        /** A task lost its connection and is tried again from its start. */
        void tryingAgain(SliceTask task, PlaceException failure, long pauseMillis);

        /** A task is done; told once. */
        void done(SliceTask task, SliceResult result);

        /**
         * A task's records can't be read.
         *
         * @throws PlaceException the failure, if the work can't go on without them
         */
        void failed(SliceTask task, PlaceException failure);
    }
}
