package org.orderlyferry.testkit.servers;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** A PostgreSQL server of one's own: on a free port, in a temporary folder, gone when it is closed. */
public final class LocalPostgres implements AutoCloseable {

    private final EmbeddedPostgres server;

    private LocalPostgres(EmbeddedPostgres server) {
        this.server = server;
    }

    /**
     * Starts a server, which takes a few seconds.
     *
     * @param settings of the server, each as {@code name=value}
     */
    public static LocalPostgres start(String... settings) {
        return SecondTry.of("PostgreSQL", () -> {
            // which goes with the server
            EmbeddedPostgres.Builder builder = EmbeddedPostgres.builder().setDataDirectory(DataFolder.fresh());
            for (String setting : List.of(settings)) {
                int sign = setting.indexOf('=');
                builder.setServerConfig(setting.substring(0, sign), setting.substring(sign + 1));
            }
            return started(builder);
        });
    }

    /**
     * Starts a server on a folder that outlives it, so that another one can go on with it.
     *
     * @param port 0 for any that is free
     */
    public static LocalPostgres startIn(Path data, int port) {
        return SecondTry.of(
                "PostgreSQL",
                () -> started(EmbeddedPostgres.builder()
                        .setDataDirectory(data)
                        .setCleanDataDirectory(false)
                        .setPort(port)));
    }

    private static LocalPostgres started(EmbeddedPostgres.Builder builder) throws IOException {
        return new LocalPostgres(builder.setPGStartupWait(SecondTry.PATIENCE).start());
    }

    /** The port that it listens on. */
    public int port() {
        return server.getPort();
    }

    /** A database's JDBC URL, as its owner; {@code postgres} is there from the start. */
    public String url(String database) {
        return "jdbc:postgresql://localhost:" + server.getPort() + "/" + database + "?user=postgres";
    }

    /**
     * Ends it at once, in the middle of whatever it does; {@link #startIn} goes on with its folder.
     *
     * @param data its folder
     */
    public void kill(Path data) {
        try {
            String process = Files.readAllLines(data.resolve("postmaster.pid")).get(0);
            Death.of(ProcessHandle.of(Long.parseLong(process.strip())).orElseThrow());
        } catch (IOException e) {
            throw new UncheckedIOException("no server runs in " + data, e);
        }
        try {
            server.close();
        } catch (IOException e) {
            // there is nothing left to stop
        }
    }

    @Override
    public void close() {
        try {
            server.close();
        } catch (IOException e) {
            throw new UncheckedIOException("PostgreSQL doesn't stop", e);
        }
    }
}
