package org.orderlyferry.databases.place;

import java.sql.Connection;
import java.sql.SQLException;
import org.orderlyferry.databases.Dialect;
import org.orderlyferry.databases.Session;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.problem.PlaceException;

/** Opens connections to one database. Safe for use by several threads. */
record Connector(PlaceAddress address, OpenOptions options, Dialect dialect, boolean write) {

    /** Another connection, prepared as the first one was. */
    Session open() {
        try {
            return session(dialect.connect(address, options, write).orElseThrow());
        } catch (SQLException e) {
            throw failed("can't be reached again: ", e);
        }
    }

    Session session(Connection connection) throws SQLException {
        connection.setAutoCommit(false);
        if (!write) {
            dialect.reading().prepare(connection);
        }
        return new Session(address.toString(), dialect, connection, this::struck);
    }

    private String struck(String text) {
        return PlaceAddress.masked(options.secrets().strikeOut(text));
    }

    PlaceException failed(String what, SQLException e) {
        return new PlaceException(
                address.toString(), what + struck(dialect.explain(e).orElseGet(e::getMessage)), e);
    }
}
