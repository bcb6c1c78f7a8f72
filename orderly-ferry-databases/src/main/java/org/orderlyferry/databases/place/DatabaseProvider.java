package org.orderlyferry.databases.place;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.Set;
import org.apiguardian.api.API;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.driver.DriverDialect;
import org.orderlyferry.io.Closing;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.PlaceProvider;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/** Opens databases, by the dialect that knows the address. */
@API(status = API.Status.INTERNAL)
public final class DatabaseProvider implements PlaceProvider {

    private static final String A_DATABASE = "a database";

    /** URLs, and files that are databases. */
    @Override
    public Set<String> schemes() {
        return Set.of(PlaceAddress.JDBC, PlaceAddress.FILE);
    }

    @Override
    public Optional<Place> open(PlaceAddress address, OpenOptions options) {
        return connect(address, options, false).map(place -> place);
    }

    @Override
    public Optional<TargetPlace> openTarget(PlaceAddress address, OpenOptions options) {
        return connect(address, options, true).map(place -> place);
    }

    private static Optional<DatabasePlace> connect(PlaceAddress address, OpenOptions options, boolean write) {
        if (address.isJdbc()) {
            options.mustBeOfNoFile(address, A_DATABASE);
        }
        for (Dialect dialect : ServiceLoader.load(Dialect.class)) {
            Optional<TargetFile> file = write ? file(dialect, address) : Optional.empty();
            Connector connector = new Connector(address, options, dialect, write);
            try {
                Optional<Connection> connection = dialect.connect(address, options, write);
                if (connection.isPresent()) {
                    mustBeOfNoFile(address, options, connection.get(), file);
                    return Optional.of(
                            new DatabasePlace(connector, connector.session(connection.get()), write, file, false));
                }
            } catch (NoClassDefFoundError e) {
                file.ifPresent(TargetFile::removeIfEmpty);
                throw new UsageException(
                        address + " can't be opened without " + dialect.system() + "'s driver, the package "
                                + dialect.driver() + ", on the class path",
                        e);
            } catch (SQLException e) {
                file.ifPresent(TargetFile::removeIfEmpty);
                if (write && dialect.isMissingDatabase(e)) {
                    return Optional.of(made(connector, options, e));
                }
                throw connector.failed("can't be opened: ", e);
            }
        }
        return address.isJdbc() ? Optional.of(byDriver(address, options, write)) : Optional.empty();
    }

    /** Whether a file is a database, its system's driver knows. */
    private static void mustBeOfNoFile(
            PlaceAddress address, OpenOptions options, Connection connection, Optional<TargetFile> made) {
        try {
            options.mustBeOfNoFile(address, A_DATABASE);
        } catch (UsageException e) {
            Closing.after(e, connection);
            made.ifPresent(TargetFile::removeIfEmpty);
            throw e;
        }
    }

    /** A system that has no dialect of its own, by what its driver tells. */
    private static DatabasePlace byDriver(PlaceAddress address, OpenOptions options, boolean write) {
        try {
            DriverDialect.Opened opened = DriverDialect.open(address, options, write)
                    .orElseThrow(() ->
                            new UsageException("there is no driver for " + address + ": " + DriverDialect.advice()));
            Connector connector = new Connector(address, options, opened.dialect(), write);
            return new DatabasePlace(connector, connector.session(opened.connection()), write, Optional.empty(), false);
        } catch (SQLException e) {
            String said = PlaceAddress.masked(options.secrets().strikeOut(String.valueOf(e.getMessage())));
            throw new PlaceException(address.toString(), "can't be opened: " + said, e);
        }
    }

    private static Optional<TargetFile> file(Dialect dialect, PlaceAddress address) {
        Optional<TargetFile> made = dialect.newFile(address)
                .flatMap(f -> f.madeByDriver() ? TargetFile.byDriver(f.path()) : TargetFile.make(f.path()));
        return made.isPresent() || address.isJdbc() ? made : TargetFile.existing(address.path());
    }

    private static DatabasePlace made(Connector connector, OpenOptions options, SQLException missing) {
        if (!options.makeMissing()) {
            throw connector.failed("can't be opened: ", missing, "; the option make-missing makes it");
        }
        try {
            connector.dialect().makeDatabase(connector.address(), options);
            return new DatabasePlace(connector, connector.open(), true, Optional.empty(), true);
        } catch (SQLException e) {
            throw connector.failed("the database can't be made: ", e);
        }
    }
}
