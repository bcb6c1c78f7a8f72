package org.orderlyferry.reconcile;

/**
 * Whether it is worth while to ask two servers for one digest of all of a range before those of its records are read. It is as long
 * as ranges turn out to be equal, as most of a table does that grows at its end; where changes are strewn all over it, it is asked
 * more and more seldom. Safe for use by several threads.
 */
final class EqualRanges {

    /** Asking in vain costs nearly as much as reading, so of a table with few ranges but one or two are. */
    private static final int FIRST = 4;

    private static final int MOST = 64;

    private int unasked;
    private int pause = FIRST;
    /** The last one that was asked for was equal; as long as it wasn't, one is asked for at a time. */
    private boolean hopeful;

    private boolean waiting;

    /** To be asked once for each range. */
    synchronized boolean areWorthAsking() {
        if (unasked > 0 || waiting && !hopeful) {
            unasked = Math.max(0, unasked - 1);
            return false;
        }
        waiting = true;
        return true;
    }

    /** What was asked for was so. */
    synchronized void were(boolean equal) {
        waiting = false;
        hopeful = equal;
        if (equal) {
            pause = FIRST;
            return;
        }
        unasked = pause;
        pause = Math.min(MOST, 3 * pause);
    }
}
