package org.orderlyferry.bench;

import java.io.File;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/**
 * Whole commands, each in a process of its own.
 *
 * @param folder where the last one's output stands
 */
record Commands(Path folder) {

    /** Runs one to its end. */
    void ferry(Object... arguments) throws Exception {
        run(command(arguments));
    }

    private static List<String> command(Object... arguments) {
        List<String> command = java(System.getProperty("java.class.path"), "org.orderlyferry.cli.Main", true);
        Stream.of(arguments).map(Object::toString).forEach(command::add);
        return command;
    }

    /** Asks whether it is time. */
    @FunctionalInterface
    interface Moment {
        boolean isThere() throws Exception;
    }

    /** Starts one and kills it outright at a moment. */
    void killed(Moment moment, Object... arguments) throws Exception {
        Process process = new ProcessBuilder(command(arguments))
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
        while (!moment.isThere()) {
            if (process.waitFor(20, TimeUnit.MILLISECONDS)) {
                throw new IllegalStateException("it had ended before it was to be killed");
            }
        }
        process.destroyForcibly().waitFor();
    }

    /** As the launcher starts it, with no more memory than is promised. */
    static List<String> java(String path, String main, boolean archived) {
        List<String> command = new ArrayList<>(
                List.of(Path.of(System.getProperty("java.home"), "bin", "java").toString()));
        String jars = System.getProperty("bench.ferry", "");
        command.add(
                jars.isEmpty()
                        ? "-XX:+UseSerialGC"
                        : "@" + Path.of(jars).resolveSibling("bin").resolve("java-options"));
        command.add("-Xmx256m");
        if (archived && !jars.isEmpty()) {
            command.add("-XX:SharedArchiveFile=" + System.getProperty("bench.archive"));
            command.add("-Xlog:disable");
            path = jars + File.separator + "*";
        }
        command.addAll(List.of("-cp", path, main));
        return command;
    }

    /** Runs a comparison to its end, whether both ends are equal or not. */
    void compared(Object... arguments) throws Exception {
        run(command(arguments), 1);
    }

    void run(List<String> command) throws Exception {
        run(command, 0);
    }

    private void run(List<String> command, int mostCode) throws Exception {
        Path log = folder.resolve("process.log");
        Process process = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(log.toFile())
                .start();
        if (process.waitFor() > mostCode) {
            throw new IllegalStateException(
                    String.join(" ", command.subList(command.indexOf("-cp") + 2, command.size())) + ": "
                            + Files.readString(log, StandardCharsets.UTF_8));
        }
    }

    /** Runs statements of the bench's own. */
    static void sql(String url, String... statements) throws SQLException {
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            for (String one : statements) {
                statement.execute(one);
            }
        }
    }
}
