package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.function.Supplier;
import org.orderlyferry.databases.dialect.Session;
import org.slf4j.LoggerFactory;

/**
 * Connections of their own over which slices are written, one at a time each. One that has committed its slice serves the
 * next: to open and settle another one takes longer than a small table. Safe for use by several threads.
 */
final class Lanes implements AutoCloseable {

    /** Seconds for which one that has waited may take to answer. */
    private static final int PATIENCE = 10;

    private final Supplier<Session> connect;
    private final Deque<Session> spare = new ArrayDeque<>();
    private boolean closed;

    Lanes(Supplier<Session> connect) {
        this.connect = connect;
    }

    /** A connection of which nobody else knows, which sees what others have committed by now. */
    Session fresh() {
        return connect.get();
    }

    /** One that has served, where it still answers, or a fresh one. */
    Session take() {
        for (Session waiting = poll(); waiting != null; waiting = poll()) {
            if (answers(waiting)) {
                return waiting;
            }
            waiting.close();
        }
        return fresh();
    }

    private synchronized Session poll() {
        return spare.poll();
    }

    /** A server that was started again, or that ends what does nothing, has let go of it meanwhile. */
    private static boolean answers(Session session) {
        try {
            return !session.isCancelled() && session.connection().isValid(PATIENCE);
        } catch (SQLException e) {
            LoggerFactory.getLogger(Lanes.class).debug("{} doesn't answer", session.address(), e);
            return false;
        }
    }

    /** Takes back one whose slice is committed. */
    void giveBack(Session session) {
        if (!isKept(session)) {
            session.close();
        }
    }

    private synchronized boolean isKept(Session session) {
        if (!closed) {
            spare.push(session);
        }
        return !closed;
    }

    private synchronized List<Session> all() {
        closed = true;
        List<Session> all = List.copyOf(spare);
        spare.clear();
        return all;
    }

    /** Lets go of those that wait, and keeps none from now on. */
    @Override
    public void close() {
        all().forEach(Session::close);
    }
}
