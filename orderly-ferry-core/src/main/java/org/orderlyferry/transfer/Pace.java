package org.orderlyferry.transfer;

import org.orderlyferry.progress.StopSignal;

/** Holds work back to so many records and bytes a second, over all lanes together. Safe for use by several threads. */
final class Pace {

    private static final long LONGEST_NAP = 100;

    private final long rowsPerSecond;
    private final long bytesPerSecond;
    private final long started = System.nanoTime();
    private double rows;
    private double bytes;

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

    /** Waits until so much more fits. */
    void keep(long moreRows, long moreBytes, Runnable check) {
        if (rowsPerSecond == 0 && bytesPerSecond == 0) {
            return;
        }
        double due;
        synchronized (this) {
            rows += moreRows;
            bytes += moreBytes;
            due = Math.max(
                    rowsPerSecond == 0 ? 0 : rows / rowsPerSecond, bytesPerSecond == 0 ? 0 : bytes / bytesPerSecond);
        }
        for (double left = left(due); left > 0; left = left(due)) {
            check.run();
            StopSignal.pause(Math.min(LONGEST_NAP, (long) Math.ceil(left * 1000)));
        }
    }

    private double left(double due) {
        return due - (System.nanoTime() - started) / 1e9;
    }
}
