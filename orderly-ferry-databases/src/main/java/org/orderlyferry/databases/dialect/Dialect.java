package org.orderlyferry.databases.dialect;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;

/**
 * What differs between database systems that are connected to. Found by {@link java.util.ServiceLoader}: a new system is one package and one
 * line of registration. Immutable, for use by any number of threads.
 */
public interface Dialect extends SystemSql {

    /** Where its driver is to be had: a Maven package, as {@code group:artifact}. */
    String driver();

    /**
     * Connects, if the address is one of this system's: a JDBC URL with its prefix, or a database file of its kind.
     *
     * @param write whether the database is to be written to, and made where it isn't there yet; otherwise nothing in it
     *     can be changed
     * @throws SQLException if the database can't be reached
     */
    Optional<Connection> connect(PlaceAddress address, OpenOptions options, boolean write) throws SQLException;

    /**
     * Sets a connection that somebody else has opened as those are set that {@link #connect} opens.
     *
     * @throws SQLException if it can't be set so
     */
    default void adopt(Connection connection, boolean write) throws SQLException {
        // nothing has to be set
    }

    /**
     * A database's file that opening an address to write makes.
     *
     * @param madeByDriver whether the driver has to make it itself, and keeps others from opening it; else an empty file
     *     is an empty database
     */
    record NewFile(Path path, boolean madeByDriver) {}

    /** The file that opening an address to write would make; nothing where the address isn't of such a file. */
    default Optional<NewFile> newFile(PlaceAddress address) {
        return Optional.empty();
    }

    /** Whether an error of connecting means that the server is there and has no such database. */
    default boolean isMissingDatabase(SQLException error) {
        return false;
    }

    /** Makes the database that a URL names, on a server that has none of that name. */
    default void makeDatabase(PlaceAddress address, OpenOptions options) throws SQLException {
        throw new SQLException("a database of this system can't be made from here");
    }

    /** Takes away a database that was made, and into which nothing was loaded. */
    default void removeDatabase(PlaceAddress address, OpenOptions options) throws SQLException {
        throw new SQLException("a database of this system can't be removed from here");
    }

    /** What a driver's error means for a person and what to do about it, where that is known. */
    Optional<String> explain(SQLException error);

    /** Whether an error means that the user lacks a right, so that other tables may still be read. */
    boolean isDenied(SQLException error);

    /** Whether an error means that the connection is gone, so that another one may do better. */
    default boolean isLost(SQLException error) {
        String state = error.getSQLState();
        return state != null && state.startsWith("08");
    }

    /**
     * Ends the statement that a connection runs, which another thread waits for; nothing where none runs.
     *
     * @throws SQLException if it can't be ended
     */
    void cancel(Connection connection) throws SQLException;

    /** Whether an address says which database of its server is meant. */
    default boolean namesDatabase(PlaceAddress address) {
        return true;
    }

    /** The databases of the server that a connection is to. */
    default List<String> databases(Connection connection) throws SQLException {
        return List.of();
    }

    /** The definitions that the database holds. */
    Catalogue catalogue(Connection connection);

    Reading reading();

    Writing writing();

    @Override
    default Defining defining() {
        return writing();
    }

    /** How it reaches into a column of JSON; empty where it can't. */
    default Optional<JsonPaths> paths() {
        return Optional.empty();
    }
}
