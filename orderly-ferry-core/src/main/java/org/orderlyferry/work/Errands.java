package org.orderlyferry.work;

import org.apiguardian.api.API;

/**
 * Runs tasks in another process than the one that leads the work: on connections of its own, beside others that do so too, and
 * also where another process runs the very same task at the same time, of which one counts. {@link #stop} may be called by any
 * thread, all else by one.
 */
@API(status = API.Status.INTERNAL)
public interface Errands extends AutoCloseable {

    /**
     * Runs a task, unless it is done already.
     *
     * @throws org.orderlyferry.problem.FerryException if it fails; nothing of it counts then
     */
    SliceResult run(SliceTask task);

    /** Ends the task that runs, with the statements that it waits for. */
    void stop();

    @Override
    void close();
}
