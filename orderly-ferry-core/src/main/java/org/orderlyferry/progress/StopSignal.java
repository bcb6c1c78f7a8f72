package org.orderlyferry.progress;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.problem.StoppedException;

/**
 * Tells running work to stop at the next batch and to put everything back. What takes long elsewhere, such as a statement
 * that a server runs, is cancelled. Safe for use by several threads.
 */
public final class StopSignal {

    private final List<Runnable> cancelling = new ArrayList<>();
    private volatile boolean stopped;

    /** Asks the work to stop. */
    public void stop() {
        List<Runnable> all;
        synchronized (cancelling) {
            stopped = true;
            all = List.copyOf(cancelling);
        }
        all.forEach(Runnable::run);
    }

    /** Whether the work has been asked to stop. */
    public boolean isStopped() {
        return stopped;
    }

    /**
     * What ends a wait of the work when it is asked to stop; run by who asks.
     *
     * @return takes it back, when the work has ended
     */
    public Runnable onStop(Runnable cancel) {
        synchronized (cancelling) {
            cancelling.add(cancel);
        }
        if (stopped) {
            cancel.run();
        }
        return () -> {
            synchronized (cancelling) {
                cancelling.remove(cancel);
            }
        };
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
