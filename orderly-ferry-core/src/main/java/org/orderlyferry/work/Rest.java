package org.orderlyferry.work;

import java.util.concurrent.TimeUnit;
import org.orderlyferry.problem.StoppedException;

/** Time in which nothing is done, and which the end of the work cuts short. */
final class Rest {

    private static final long LONGEST_NAP = 100;

    private Rest() {}

    /**
     * Waits.
     *
     * @param check asked again and again whether to go on
     * @throws StoppedException if it says no, or the thread is interrupted
     */
    static void of(long millis, Runnable check) {
        long end = System.nanoTime() + TimeUnit.MILLISECONDS.toNanos(millis);
        for (long left = millis; left > 0; left = TimeUnit.NANOSECONDS.toMillis(end - System.nanoTime())) {
            check.run();
            try {
                Thread.sleep(Math.min(LONGEST_NAP, left));
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw new StoppedException();
            }
        }
    }
}
