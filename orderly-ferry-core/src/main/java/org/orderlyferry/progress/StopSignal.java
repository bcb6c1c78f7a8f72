package org.orderlyferry.progress;

import org.orderlyferry.problem.StoppedException;

/** Tells running work to stop at the next batch and to put everything back. Safe for use by several threads. */
public final class StopSignal {

    private volatile boolean stopped;

    /** Asks the work to stop. */
    public void stop() {
        stopped = true;
    }

    /**
     * Goes on, or doesn't.
     *
     * @throws StoppedException if the work has been asked to stop
     */
    public void check() {
        if (stopped) {
            throw new StoppedException();
        }
    }
}
