package org.orderlyferry.databases.place;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.problem.PlaceException;

/** Opens connections to one database. Safe for use by several threads. */
record Connector(
        PlaceAddress address,
        OpenOptions options,
        Dialect dialect,
        boolean write,
        Connecting connecting,
        Set<Session> sessions) {

    /** A way to a connection. */
    @FunctionalInterface
    interface Connecting {
        Connection connect() throws SQLException;
    }

    Connector(PlaceAddress address, OpenOptions options, Dialect dialect, boolean write) {
        this(
                address,
                options,
                dialect,
                write,
                () -> dialect.connect(address, options, write).orElseThrow(),
                ConcurrentHashMap.newKeySet());
    }

    /** Ends what all sessions wait for that were opened and not closed. */
    void cancel() {
        sessions.forEach(Session::cancel);
    }

    /** Another connection, prepared as the first one was. */
    Session open() {
        try {
            return session(connecting.connect());
        } catch (SQLException e) {
            // one that was lost while it was opened may do better the next time
            throw new PlaceException(
                    address.toString(),
                    "another connection can't be opened: " + explained(e),
                    dialect.isDenied(e),
                    dialect.isLost(e),
                    e);
        }
    }

    Session session(Connection connection) throws SQLException {
        connection.setAutoCommit(false);
        if (!write) {
            dialect.reading().prepare(connection);
        }
        Session session = new Session(address.toString(), dialect, connection, this::struck);
        if (!write && options.moment().isPresent()) {
            session.work("what another process sees can't be seen", () -> {
                dialect.reading().see(session, options.moment().get());
                return null;
            });
        }
        sessions.removeIf(Session::isOver);
        sessions.add(session);
        return session;
    }

    private String struck(String text) {
        return PlaceAddress.masked(options.secrets().strikeOut(text));
    }

    PlaceException failed(String what, SQLException e) {
        return failed(what, e, "");
    }

    /** The exception for an error of the driver, with what to do next. */
    PlaceException failed(String what, SQLException e, String next) {
        return new PlaceException(address.toString(), what + explained(e) + next, e);
    }

    private String explained(SQLException e) {
        return struck(dialect.explain(e).orElseGet(e::getMessage));
    }
}
