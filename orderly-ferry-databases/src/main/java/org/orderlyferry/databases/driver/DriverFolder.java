package org.orderlyferry.databases.driver;

import java.io.IOException;
import java.net.MalformedURLException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Driver;
import java.sql.DriverPropertyInfo;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.ServiceConfigurationError;
import java.util.ServiceLoader;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.orderlyferry.problem.UsageException;
import org.slf4j.LoggerFactory;

/**
 * Where the jars of drivers lie that don't come along: a folder of the user's. A driver is a program and runs as the user
 * who put it there; nothing else but what stands there, or on the class path, is ever loaded. Safe for use by several
 * threads.
 */
final class DriverFolder {

    /** Names another folder than the usual one. */
    static final String VARIABLE = "FERRY_DRIVERS";

    /** The same for programs and tests. */
    private static final String PROPERTY = "ferry.drivers";

    private static final Map<Path, ClassLoader> LOADERS = new HashMap<>();

    private DriverFolder() {}

    /** The folder: as told, or the one for a user's data by the XDG Base Directory Specification. */
    static Path path() {
        String told = System.getProperty(PROPERTY, System.getenv(VARIABLE));
        if (told != null && !told.isBlank()) {
            return Path.of(told).toAbsolutePath();
        }
        String data = System.getenv("XDG_DATA_HOME");
        Path home = data == null || data.isBlank()
                ? Path.of(System.getProperty("user.home"), ".local", "share")
                : Path.of(data);
        return home.resolve("orderly-ferry").resolve("drivers").toAbsolutePath();
    }

    /** The driver that takes a URL, from the class path or the folder. */
    static Optional<Driver> accepting(String url) {
        Iterator<Driver> drivers =
                ServiceLoader.load(Driver.class, loader(path())).iterator();
        while (true) {
            try {
                if (!drivers.hasNext()) {
                    return Optional.empty();
                }
                Driver driver = drivers.next();
                if (driver.acceptsURL(url)) {
                    return Optional.of(driver);
                }
            } catch (SQLException | ServiceConfigurationError | LinkageError e) {
                // one that is broken, or for a newer Java, doesn't keep the others from being asked
                LoggerFactory.getLogger(DriverFolder.class).warn("a driver can't be used: {}", String.valueOf(e));
            }
        }
    }

    private static synchronized ClassLoader loader(Path folder) {
        return LOADERS.computeIfAbsent(folder, f -> {
            List<URL> jars = jars(f);
            ClassLoader own = DriverFolder.class.getClassLoader();
            return jars.isEmpty() ? own : new URLClassLoader(jars.toArray(URL[]::new), own);
        });
    }

    private static List<URL> jars(Path folder) {
        if (!Files.isDirectory(folder)) {
            return List.of();
        }
        try (Stream<Path> files = Files.list(folder)) {
            List<URL> jars = new ArrayList<>();
            for (Path file :
                    files.filter(f -> f.toString().endsWith(".jar")).sorted().toList()) {
                jars.add(file.toUri().toURL());
            }
            return jars;
        } catch (MalformedURLException e) {
            throw new IllegalStateException(e);
        } catch (IOException e) {
            throw new UsageException("the folder of drivers, " + folder + ", can't be read: " + e.getMessage(), e);
        }
    }

    /** The names of the properties that a driver takes. */
    static Set<String> properties(Driver driver, String url) throws SQLException {
        DriverPropertyInfo[] told = driver.getPropertyInfo(url, new Properties());
        return told == null ? Set.of() : Arrays.stream(told).map(p -> p.name).collect(Collectors.toSet());
    }
}
