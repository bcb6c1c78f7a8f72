package org.orderlyferry.databases.driver;

import java.sql.Connection;
import java.sql.Driver;
import java.sql.SQLException;
import java.time.ZoneId;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.ConnectedSql;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.io.Closing;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.problem.UsageException;

/**
 * A system that is connected to by a driver which doesn't come along, as that driver tells of it. Unlike those that have packages of their own it isn't registered: one is made
 * for a database, once that was connected to. Immutable, for use by any number of threads.
 */
public sealed class DriverDialect implements Dialect permits KnownDialect {

    private static final String LOST = "08";

    private final Optional<Driver> driver;
    private final DriverTraits traits;
    private final Trial trial;
    private final DriverTypes types;

    DriverDialect(Optional<Driver> driver, DriverTraits traits, Trial trial) {
        this.driver = driver;
        this.traits = traits;
        this.trial = trial;
        this.types = new DriverTypes(traits.types(), trial.names(), trial.digits());
    }

    /** A database's connection, with the dialect that was made for it. */
    public record Opened(DriverDialect dialect, Connection connection) {}

    /**
     * Connects by the driver that takes an address; nothing where there is none.
     *
     * @throws SQLException if the database can't be reached
     */
    public static Optional<Opened> open(PlaceAddress address, OpenOptions options, boolean write) throws SQLException {
        String url = address.opened(options.secrets());
        Optional<Driver> driver = DriverFolder.accepting(url);
        if (driver.isEmpty()) {
            return Optional.empty();
        }
        Connection connection = connect(driver.get(), url, write);
        try {
            return Optional.of(new Opened(of(driver, connection), connection));
        } catch (SQLException | RuntimeException e) {
            Closing.after(e, connection);
            throw e;
        }
    }

    /** The dialect for a connection that somebody else has opened, which commits by itself. */
    public static DriverDialect of(Connection connection) throws SQLException {
        return of(Optional.empty(), connection);
    }

    private static DriverDialect of(Optional<Driver> driver, Connection connection) throws SQLException {
        Optional<ConnectedSql> known =
                KnownSystems.system(connection.getMetaData().getDatabaseProductName());
        DriverTraits traits = DriverTraits.of(connection, known);
        Trial trial = Trial.of(connection, traits.types());
        if (trial.reading(TypeName.TIMESTAMP) != Way.OBJECT
                && !Shift.LEFT_OUT_HOUR.sample().isEmpty()) {
            throw new UsageException(
                    "the driver of " + traits.system() + " shifts times that fall into an hour which the"
                            + " zone of this machine, " + ZoneId.systemDefault() + ", leaves out, as "
                            + Shift.LEFT_OUT_HOUR.sample()
                            + "; set TZ=UTC in the environment, or -Duser.timezone=UTC for a program of yours");
        }
        return known.isPresent()
                ? new KnownDialect(driver, known.get(), traits, trial)
                : new DriverDialect(driver, traits, trial);
    }

    /** What to do where there is no driver for an address. */
    public static String advice() {
        return "put the jar of its JDBC driver into " + DriverFolder.path() + ", or into another folder that "
                + DriverFolder.VARIABLE + " names";
    }

    private static Connection connect(Driver driver, String url, boolean write) throws SQLException {
        Connection connection = driver.connect(
                write ? url : DriverHabits.withoutMaking(url), DriverHabits.properties(driver, url, write));
        if (connection == null) {
            throw new SQLException("the driver doesn't take this URL");
        }
        return connection;
    }

    @Override
    public String system() {
        return traits.system();
    }

    /** Whether references and defaults have its rules, which are stricter than ISO SQL's; Derby was made to be taken for it. */
    final boolean keepsToRulesOfDb2() {
        return traits.system().startsWith("Apache Derby") || traits.system().startsWith("DB2");
    }

    DriverTraits traits() {
        return traits;
    }

    Trial trial() {
        return trial;
    }

    /** A system with which nobody has ever tried this has no package that could be named. */
    @Override
    public String driver() {
        return "of " + system();
    }

    @Override
    public Optional<Connection> connect(PlaceAddress address, OpenOptions options, boolean write) throws SQLException {
        return driver.isEmpty()
                ? Optional.empty()
                : Optional.of(connect(driver.get(), address.opened(options.secrets()), write));
    }

    @Override
    public Optional<String> explain(SQLException error) {
        return Optional.of(String.valueOf(error.getMessage()).strip());
    }

    @Override
    public boolean isDenied(SQLException error) {
        // 42501 and 42502 are said by several systems, 28 by ISO/IEC 9075-2
        String state = error.getSQLState();
        return state != null && (state.startsWith("4250") || state.startsWith("28"));
    }

    @Override
    public boolean isLost(SQLException error) {
        String state = error.getSQLState();
        return state != null && state.startsWith(LOST);
    }

    /** JDBC ends a statement, not what a connection does: the connection goes. */
    @Override
    public void cancel(Connection connection) throws SQLException {
        connection.abort(Runnable::run);
    }

    @Override
    public Catalogue catalogue(Connection connection) {
        return new DriverCatalogue(connection, this);
    }

    @Override
    public String quote(String name) {
        if (traits.quote().isEmpty()) {
            if (!name.matches("[A-Za-z][A-Za-z0-9_]*")) {
                throw new UsageException(system() + " has no quotes for names, and can't have this one: " + name);
            }
            return name;
        }
        return traits.quoted(name);
    }

    @Override
    public NamingRules naming() {
        return traits.naming();
    }

    @Override
    public TypeMapping types() {
        return types;
    }

    DriverTypes driverTypes() {
        return types;
    }

    @Override
    public Reading reading() {
        return new DriverReading(this);
    }

    @Override
    public Writing writing() {
        return new DriverWriting(this);
    }

    /**
     * Nobody asks: scripts are those of systems that are registered.
     *
     * @throws UnsupportedOperationException always
     */
    @Override
    public Scripting scripting() {
        throw new UnsupportedOperationException("there are no scripts of " + system());
    }
}
