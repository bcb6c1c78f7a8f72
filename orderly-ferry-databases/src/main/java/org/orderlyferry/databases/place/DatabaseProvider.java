package org.orderlyferry.databases.place;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Optional;
import java.util.ServiceLoader;
import org.orderlyferry.databases.Dialect;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.PlaceProvider;
import org.orderlyferry.place.TargetPlace;
import org.slf4j.LoggerFactory;

/** Opens databases, by the dialect that knows the address. */
public final class DatabaseProvider implements PlaceProvider {

    @Override
    public Optional<Place> open(PlaceAddress address, OpenOptions options) {
        return connect(address, options, false).map(place -> place);
    }

    @Override
    public Optional<TargetPlace> openTarget(PlaceAddress address, OpenOptions options) {
        return connect(address, options, true).map(place -> place);
    }

    /** A file that a driver made before it failed. */
    private static void removeIfEmpty(Path file) {
        try {
            if (Files.exists(file) && Files.size(file) == 0) {
                Files.delete(file);
            }
        } catch (IOException e) {
            LoggerFactory.getLogger(DatabaseProvider.class).warn("{} is empty and can't be removed", file, e);
        }
    }

    private static Optional<DatabasePlace> connect(PlaceAddress address, OpenOptions options, boolean write) {
        Optional<Path> newFile = write && !address.isJdbc() && Files.notExists(address.path())
                ? Optional.of(address.path())
                : Optional.empty();
        for (Dialect dialect : ServiceLoader.load(Dialect.class)) {
            Connector connector = new Connector(address, options, dialect, write);
            try {
                Optional<Connection> connection = dialect.connect(address, options, write);
                if (connection.isPresent()) {
                    return Optional.of(
                            new DatabasePlace(connector, connector.session(connection.get()), write, newFile, false));
                }
            } catch (SQLException e) {
                newFile.ifPresent(DatabaseProvider::removeIfEmpty);
                if (write && dialect.isMissingDatabase(e)) {
                    return Optional.of(made(connector, options, e));
                }
                throw connector.failed("can't be opened: ", e);
            }
        }
        return Optional.empty();
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
