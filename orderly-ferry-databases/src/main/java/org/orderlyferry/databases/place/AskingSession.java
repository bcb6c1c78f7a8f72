package org.orderlyferry.databases.place;

import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.databases.dialect.Session;

/** A session for what is asked while others are at work; opened when the first question comes. Safe for use by several threads. */
final class AskingSession implements Supplier<Session>, AutoCloseable {

    private final Connector connector;
    private @Nullable Session session;

    AskingSession(Connector connector) {
        this.connector = connector;
    }

    @Override
    public synchronized Session get() {
        if (session == null) {
            session = connector.open();
        }
        return session;
    }

    @Override
    public synchronized void close() {
        if (session != null) {
            session.close();
        }
    }
}
