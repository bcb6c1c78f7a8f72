package org.orderlyferry.work;

import java.util.concurrent.TimeUnit;

/**
 * Holds work back to so many records and bytes a second, over all lanes together; time in which nothing moved is not
 * made up for afterwards. Safe for use by several threads.
 */
final class Pace {

    private static final double SECOND = TimeUnit.SECONDS.toNanos(1);

    private final long rowsPerSecond;
    private final long bytesPerSecond;
    /** When what has moved so far has had its time. */
    private long free = System.nanoTime();

    /**
     * A pace.
     *
     * @param rowsPerSecond at most; 0 for any
     * @param bytesPerSecond at most; 0 for any
     */
    Pace(long rowsPerSecond, long bytesPerSecond) {
        this.rowsPerSecond = rowsPerSecond;
        this.bytesPerSecond = bytesPerSecond;
    }

    /** What one of so many lanes may do where they know nothing of one another. */
    static Pace share(WorkOrder.Flow flow, int lanes) {
        return new Pace(share(flow.rowsPerSecond(), lanes), share(flow.bytesPerSecond(), lanes));
    }

    private static long share(long all, int lanes) {
        return all == 0 ? 0 : Math.max(1, all / lanes);
    }

    /** Waits until what has just moved has had its time. */
    void keep(long rows, long bytes, Runnable check) {
        double seconds = Math.max(time(rows, rowsPerSecond), time(bytes, bytesPerSecond));
        if (seconds == 0) {
            return;
        }
        long wait;
        synchronized (this) {
            long now = System.nanoTime();
            free = (free - now < 0 ? now : free) + (long) (seconds * SECOND);
            wait = free - now;
        }
        Rest.of(TimeUnit.NANOSECONDS.toMillis(wait), check);
    }

    private static double time(long amount, long perSecond) {
        return perSecond == 0 ? 0 : (double) amount / perSecond;
    }
}
