package org.orderlyferry.databases.dialect;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.sql.Statement;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.orderlyferry.databases.sql.Statements;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.PlaceException;
import org.slf4j.LoggerFactory;

/** A connection to a database, with the dialect that knows it. Not safe for use by several threads. */
public final class Session implements AutoCloseable {

    /** Something to be done with the connection. */
    @FunctionalInterface
    public interface Work<T> {
        T doIt() throws SQLException;
    }

    private static final int LONGEST_SHOWN = 400;

    private final String address;
    private final Dialect dialect;
    private final Connection connection;
    private final UnaryOperator<String> strikeOut;
    private volatile UnaryOperator<String> wording = UnaryOperator.identity();
    private volatile boolean cancelled;

    /**
     * A session over an open connection.
     *
     * @param address free of secrets
     * @param strikeOut takes secrets out of what drivers say
     */
    public Session(String address, Dialect dialect, Connection connection, UnaryOperator<String> strikeOut) {
        this.address = address;
        this.dialect = dialect;
        this.connection = connection;
        this.strikeOut = strikeOut;
    }

    public String address() {
        return address;
    }

    public Dialect dialect() {
        return dialect;
    }

    public Connection connection() {
        return connection;
    }

    public Catalogue catalogue() {
        return dialect.catalogue(connection);
    }

    public CatalogueQuery query() {
        return new CatalogueQuery(connection);
    }

    /** Does something; an error becomes a {@link PlaceException} that says what couldn't be done and why. */
    public <T> T work(String what, Work<T> work) {
        try {
            return work.doIt();
        } catch (SQLException e) {
            throw failed(what, e);
        } catch (RuntimeException e) {
            throw DriverFault.of(e)
                    .<RuntimeException>map(fault -> failed(what, fault))
                    .orElse(e);
        }
    }

    /** The exception for an error of the driver. A connection that it says is lost is ended with it. */
    public PlaceException failed(String what, SQLException e) {
        boolean lost = dialect.isLost(e);
        if (lost) {
            abort();
        }
        return new PlaceException(address, what + ": " + explained(e), dialect.isDenied(e), lost, e);
    }

    /** Lets go of a connection whose other end is gone: a driver may wait for ever for what can't come any more. */
    private void abort() {
        try {
            connection.abort(Runnable::run);
        } catch (SQLException e) {
            LoggerFactory.getLogger(Session.class).debug("the lost connection to {} can't be ended", address, e);
        }
    }

    /**
     * Ends what the session waits for, and lets no further statement begin. May be called by any thread; one of a session
     * that does nothing does no harm.
     */
    public void cancel() {
        cancelled = true;
        try {
            if (!connection.isClosed()) {
                dialect.cancel(connection);
            }
        } catch (SQLException e) {
            LoggerFactory.getLogger(Session.class).debug("nothing to cancel in {}", address, e);
        }
    }

    /** Goes on after it was cancelled: what was done has to be put back. */
    public void resume() {
        cancelled = false;
    }

    /** Sets how what the server says is put for a person who doesn't know what a load calls things on its way. */
    public void wording(UnaryOperator<String> value) {
        wording = value;
    }

    /** Whether what it waited for was ended, and it takes no more statements. */
    public boolean isCancelled() {
        return cancelled;
    }

    /** What a driver's error means for a person. */
    public String explained(SQLException e) {
        return e instanceof ExplainedException
                ? e.getMessage()
                : worded(dialect.explain(e).orElseGet(() -> String.valueOf(e.getMessage())));
    }

    /** What the server says, as a person may read it. */
    public String worded(String message) {
        return strikeOut.apply(wording.apply(message));
    }

    /** Refuses what isn't one statement: nothing that a file or a catalogue says may bring a second one along. */
    private String single(String sql) throws SQLException {
        if (cancelled) {
            throw new SQLException("the work was told to stop");
        }
        if (!Statements.isOne(sql, dialect.system())) {
            throw new SQLException("this isn't one statement, and is not sent: " + sql);
        }
        return sql;
    }

    /** Runs a statement; its text stands in the error if it fails. */
    public void execute(String sql) throws SQLException {
        single(sql);
        send(sql);
    }

    /** Runs a block of statements of our own making, in which no text from outside stands. */
    public void block(String sql) throws SQLException {
        send(sql);
    }

    private void send(String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        } catch (SQLException e) {
            throw new ExplainedException(explained(e) + "; the statement was: " + shortened(sql), e);
        }
    }

    /** An error whose message says already what it means for a person. */
    private static final class ExplainedException extends SQLException {
        private static final long serialVersionUID = 1L;

        ExplainedException(String message, SQLException cause) {
            super(message, cause.getSQLState(), cause.getErrorCode(), cause);
        }
    }

    /** So much of a statement as a person reads. */
    private static String shortened(String sql) {
        return sql.length() <= LONGEST_SHOWN ? sql : sql.substring(0, LONGEST_SHOWN) + " …";
    }

    /** Runs a statement that changes rows, and tells how many. */
    public long update(String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            return statement.executeLargeUpdate(single(sql));
        }
    }

    /** The first value of a query's first row; empty where there is none, or a null. */
    public Optional<String> value(String sql) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet result = statement.executeQuery(single(sql))) {
            return result.next() ? Optional.ofNullable(result.getString(1)) : Optional.empty();
        }
    }

    public long count(TableName table) throws SQLException {
        return Long.parseLong(value("SELECT " + dialect.reading().counting() + " FROM " + dialect.quote(table))
                .orElse("0"));
    }

    /** A point of the transaction to which it can be rolled back; empty where the system has none. */
    public Optional<Savepoint> savepoint() throws SQLException {
        return connection.getMetaData().supportsSavepoints()
                ? Optional.of(connection.setSavepoint())
                : Optional.empty();
    }

    /** Gives up a savepoint; drivers that have no word for it (SQL Server's, Oracle's) forget it with its transaction. */
    public void release(Savepoint savepoint) throws SQLException {
        try {
            connection.releaseSavepoint(savepoint);
        } catch (SQLException e) {
            if (dialect.isLost(e)) {
                throw e;
            }
            LoggerFactory.getLogger(Session.class).debug("a savepoint isn't released in {}", address, e);
        }
    }

    /** Rolls back where there is something to: a system that has failed may have done so itself. */
    public void rollback() {
        try {
            connection.rollback();
        } catch (SQLException e) {
            LoggerFactory.getLogger(Session.class).debug("nothing to roll back in {}", address, e);
        }
    }

    /** Whether nothing can be asked any more, because the connection was lost or closed. */
    public boolean isEnded() {
        return work("the connection can't be asked for its state", connection::isClosed);
    }

    /** Whether it was closed. */
    public boolean isOver() {
        try {
            return connection.isClosed();
        } catch (SQLException e) {
            return false;
        }
    }

    /** Lets go of the connection. One that can't be closed is lost, and so is nothing else: what lasts was committed. */
    @Override
    public void close() {
        try {
            if (!connection.isClosed()) {
                rollback();
                connection.close();
            }
        } catch (SQLException e) {
            LoggerFactory.getLogger(Session.class).debug("the connection to {} can't be closed", address, e);
            // a server that still has it would keep its locks
            abort();
        }
    }
}
