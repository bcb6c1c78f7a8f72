package org.orderlyferry.databases.place;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.Objects;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.concurrent.ConcurrentHashMap;
import javax.sql.DataSource;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.driver.DriverDialect;
import org.orderlyferry.io.Closing;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;

/**
 * Databases whose connections somebody else opens, such as a framework's. Each connection is set as the work needs it (time
 * zone, isolation, what may be changed) and isn't set back: give a source of its own, or one that resets what it takes
 * back. One is asked for when the place is opened, and more for lanes; all are closed with the place. Safe for use by
 * several threads.
 */
public final class DataSources {

    private DataSources() {}

    /**
     * Opens a database to read from.
     *
     * @throws PlaceException if there is no connection to be had
     */
    public static Place open(DataSource source, OpenOptions options) {
        return place(source, options, false);
    }

    /**
     * Opens a database to write to.
     *
     * @throws PlaceException if there is no connection to be had
     */
    public static TargetPlace openTarget(DataSource source, OpenOptions options) {
        return place(source, options, true);
    }

    private static DatabasePlace place(DataSource source, OpenOptions options, boolean write) {
        Objects.requireNonNull(source, "source");
        Objects.requireNonNull(options, "options");
        PlaceAddress address = PlaceAddress.of("a data source");
        Connection connection = null;
        try {
            connection = source.getConnection();
            String url = connection.getMetaData().getURL();
            address = PlaceAddress.of(url == null || url.isBlank() ? "a data source" : url);
            Optional<Dialect> known = dialect(connection.getMetaData().getDatabaseProductName());
            Dialect dialect = known.isPresent() ? known.get() : byDriver(connection);
            Connector connector = new Connector(
                    address,
                    options,
                    dialect,
                    write,
                    () -> adopted(source, dialect, write),
                    ConcurrentHashMap.newKeySet());
            adopt(dialect, connection, write);
            return new DatabasePlace(connector, connector.session(connection), write, Optional.empty(), false);
        } catch (SQLException e) {
            PlaceException failure = new PlaceException(
                    address.toString(), "can't be opened: " + PlaceAddress.masked(String.valueOf(e.getMessage())), e);
            Closing.after(failure, connection);
            throw failure;
        } catch (RuntimeException e) {
            Closing.after(e, connection);
            throw e;
        }
    }

    private static Connection adopted(DataSource source, Dialect dialect, boolean write) throws SQLException {
        Connection connection = source.getConnection();
        try {
            adopt(dialect, connection, write);
            return connection;
        } catch (SQLException e) {
            connection.close();
            throw e;
        }
    }

    /** What is set lasts, whatever becomes of the transactions that follow. */
    private static void adopt(Dialect dialect, Connection connection, boolean write) throws SQLException {
        connection.setAutoCommit(true);
        dialect.adopt(connection, write);
    }

    private static Optional<Dialect> dialect(String product) {
        return ServiceLoader.load(Dialect.class).stream()
                .map(ServiceLoader.Provider::get)
                .filter(d -> d.system().equals(product))
                .findFirst();
    }

    /** A system that has no dialect of its own, by what its driver tells. */
    private static Dialect byDriver(Connection connection) throws SQLException {
        connection.setAutoCommit(true);
        return DriverDialect.of(connection);
    }
}
