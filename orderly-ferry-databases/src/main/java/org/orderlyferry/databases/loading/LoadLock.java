package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.time.Duration;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.problem.UsageException;

/** Keeps other loads out of a database while one is under way. */
final class LoadLock {

    /**
     * A server lets go of what an ended connection held some moments after that has ended: whoever loads one thing after
     * the other isn't to be told that somebody is in the way.
     */
    private static final Duration PATIENCE = Duration.ofSeconds(3);

    private static final long STEP = 100;

    private LoadLock() {}

    /**
     * Takes the lock, for as long as the session lasts.
     *
     * @throws UsageException if another load has it, and keeps it
     */
    static void take(Session session) throws SQLException {
        long end = System.nanoTime() + PATIENCE.toNanos();
        while (!session.dialect().writing().lock(session)) {
            if (System.nanoTime() > end) {
                throw inTheWay(session);
            }
            try {
                Thread.sleep(STEP);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw inTheWay(session);
            }
        }
    }

    private static UsageException inTheWay(Session session) {
        return new UsageException("another load into " + session.address() + " is under way; nothing was changed");
    }
}
