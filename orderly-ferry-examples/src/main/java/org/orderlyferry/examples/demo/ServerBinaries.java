package org.orderlyferry.examples.demo;

import java.io.File;
import java.io.IOException;
import java.io.InputStream;
import java.lang.management.ManagementFactory;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.orderlyferry.cli.Console;
import org.orderlyferry.problem.PlaceException;

/**
 * The programs of two database servers. They are larger than all else together, so nothing brings them along: Maven fetches
 * them when the demo is to start servers, once, and the demo is called again with them on its class path.
 */
final class ServerBinaries {

    private static final String ONE_CLASS_OF_THEM = "io.zonky.test.db.postgres.embedded.EmbeddedPostgres";

    private final Console console;
    private final Path folder;

    /** Kept in the user's cache folder, or in another folder where nothing is to be kept there. */
    ServerBinaries(Console console, Path otherwise) {
        this.console = console;
        this.folder = cache(System.getenv(), otherwise).resolve("servers-0.1.0");
    }

    static Path cache(Map<String, String> environment, Path otherwise) {
        String told = environment.getOrDefault("FERRY_CACHE", "");
        if (told.equals("none")) {
            return otherwise;
        }
        if (!told.isEmpty()) {
            return Path.of(told);
        }
        String user = environment.getOrDefault("XDG_CACHE_HOME", "");
        return (user.isEmpty() ? Path.of(System.getProperty("user.home"), ".cache") : Path.of(user))
                .resolve("orderly-ferry");
    }

    /** Whether this process can start servers. */
    static boolean areOnTheClassPath() {
        try {
            Class.forName(ONE_CLASS_OF_THEM, false, ServerBinaries.class.getClassLoader());
            return true;
        } catch (ClassNotFoundException e) {
            return false;
        }
    }

    /**
     * Runs a command in a process that can start servers.
     *
     * @return its exit code
     */
    int run(List<String> arguments) {
        if (!Files.isDirectory(folder)) {
            fetch();
        }
        List<String> command = new ArrayList<>();
        command.add(ProcessHandle.current().info().command().orElse("java"));
        command.addAll(ManagementFactory.getRuntimeMXBean().getInputArguments());
        command.addAll(List.of(
                "-cp",
                System.getProperty("java.class.path") + File.pathSeparator + folder.resolve("*"),
                "org.orderlyferry.cli.Main"));
        command.addAll(arguments);
        try {
            return new ProcessBuilder(command).inheritIO().start().waitFor();
        } catch (IOException e) {
            throw new PlaceException("the demo's servers", "can't be started: " + e.getMessage(), e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new PlaceException("the demo's servers", "nobody waits for them any more", e);
        }
    }

    private void fetch() {
        console.out()
                .println("Fetching PostgreSQL's and MariaDB's programs with Maven into " + folder
                        + ": about 170 MB, once");
        console.out().flush();
        Path made = folder.resolveSibling(
                folder.getFileName() + "." + ProcessHandle.current().pid());
        try {
            Files.createDirectories(made);
            Path pom = made.resolve("pom.xml");
            try (InputStream in = ServerBinaries.class.getResourceAsStream("servers.xml")) {
                Files.copy(in, pom, StandardCopyOption.REPLACE_EXISTING);
            }
            Path log = made.resolve("maven.log");
            Process maven = new ProcessBuilder(
                            "mvn",
                            "-B",
                            "-f",
                            pom.toString(),
                            "dependency:copy-dependencies",
                            "-DoutputDirectory=" + made.toAbsolutePath())
                    .redirectErrorStream(true)
                    .redirectOutput(log.toFile())
                    .start();
            if (maven.waitFor() != 0) {
                throw new IOException(firstError(Files.readString(log, StandardCharsets.UTF_8)));
            }
            Files.move(made, folder, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException e) {
            throw new PlaceException(
                    "the demo's servers",
                    "their programs can't be fetched: " + e.getMessage() + "; that needs Maven (mvn) and a network",
                    e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new PlaceException("the demo's servers", "nobody waits for them any more", e);
        } finally {
            remove(made);
        }
    }

    /** The first thing that Maven calls an error. */
    private static String firstError(String log) {
        return log.lines().filter(l -> l.startsWith("[ERROR]")).findFirst().orElse("see what mvn says of itself");
    }

    private static void remove(Path made) {
        if (!Files.exists(made)) {
            return;
        }
        try (Stream<Path> all = Files.walk(made)) {
            for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(path);
            }
        } catch (IOException e) {
            throw new PlaceException(made.toString(), "can't be removed: " + e.getMessage(), e);
        }
    }
}
