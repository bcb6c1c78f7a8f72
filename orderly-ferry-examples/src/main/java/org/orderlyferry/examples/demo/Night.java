package org.orderlyferry.examples.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.orderlyferry.cli.Argument;
import org.orderlyferry.cli.Console;
import org.orderlyferry.cli.FerryCommand;
import org.orderlyferry.cli.Main;
import org.orderlyferry.problem.PlaceException;

/**
 * The night of a migration, by commands: drafted, checked, run by a process that is killed in the middle of its load, gone on
 * with, caught up with what the application did meanwhile, compared, and undone.
 */
final class Night {

    private static final int LONGEST_SECONDS = 300;

    private final Console console;
    private final Path source;
    private final Path target;
    private final Path crossing;

    Night(Console console, Path source, Path target, Path crossing) {
        this.console = console;
        this.source = source;
        this.target = target;
        this.crossing = crossing;
    }

    int run() {
        int code = command("draft", source.toString(), target.toString(), "--file", crossing.toString());
        edit();
        if (code == 0) {
            code = command("check", crossing.toString());
        }
        if (code == 0) {
            killed();
            code = command("run", crossing.toString());
        }
        if (code == 0) {
            change();
            code = command("run", crossing.toString(), "--catch-up");
        }
        if (code == 0) {
            code = command("reconcile", source.toString(), target.toString());
        }
        return code == 0 ? command("undo", crossing.toString()) : code;
    }

    private int command(String... arguments) {
        said("$ ferry " + Argument.all(List.of(arguments)));
        return FerryCommand.run(console, arguments);
    }

    private void said(String text) {
        console.out().println();
        console.out().println(text);
        console.out().flush();
    }

    /** What a specialist decides after the draft. */
    private void edit() {
        try {
            String text = Files.readString(crossing);
            Files.writeString(
                    crossing,
                    text.replace("source-moment: one  ", "source-moment: still")
                            .replace("follow-deletes: false", "follow-deletes: true "));
            said("In the file, we decide: source-moment: still, and follow-deletes: true.");
        } catch (IOException e) {
            throw failed(crossing, e);
        }
    }

    private static PlaceException failed(Path file, Exception e) {
        return new PlaceException(file.toString(), "the demo can't go on: " + e.getMessage(), e);
    }

    /** A process of its own runs the crossing, and is killed outright when its load has begun. */
    private void killed() {
        said("$ ferry run " + Argument.of(crossing)
                + "    (in another process, which we kill in the middle of its load)");
        try {
            Process process = new ProcessBuilder(
                            Path.of(System.getProperty("java.home"), "bin", "java")
                                    .toString(),
                            "-cp",
                            System.getProperty("java.class.path"),
                            Main.class.getName(),
                            "run",
                            crossing.toString())
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
            long patience = System.nanoTime() + TimeUnit.SECONDS.toNanos(LONGEST_SECONDS);
            while (process.isAlive() && !isLoading() && System.nanoTime() < patience) {
                Thread.sleep(20);
            }
            process.destroyForcibly();
            process.waitFor();
            said("Killed. What it has noted stands in its ledger; we run it again.");
        } catch (IOException e) {
            throw failed(crossing, e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private boolean isLoading() throws IOException {
        Path runs = crossing.resolveSibling("runs");
        if (!Files.isDirectory(runs)) {
            return false;
        }
        try (Stream<Path> all = Files.walk(runs)) {
            for (Path ledger : all.filter(p -> p.endsWith("ledger.jsonl")).toList()) {
                if (Files.readString(ledger).contains("\"step\":\"load\"")) {
                    return true;
                }
            }
        }
        return false;
    }

    private void change() {
        String url = "jdbc:h2:" + source.toAbsolutePath().toString().replaceFirst("\\.mv\\.db$", "");
        try (Connection connection = DriverManager.getConnection(url, "sa", "");
                Statement statement = connection.createStatement()) {
            statement.executeUpdate("UPDATE \"chamber_reading\" SET \"humidity\" = 55.5 WHERE MOD(\"id\", 100) = 0");
            statement.executeUpdate("DELETE FROM \"chamber_reading\" WHERE MOD(\"id\", 500) = 1");
            statement.executeUpdate("UPDATE \"collector\" SET \"name\" = \"name\" || ' (retired)' WHERE \"id\" = 7");
            said(
                    "Meanwhile the application has changed a hundredth of the readings, deleted some, and a collector retired.");
        } catch (SQLException e) {
            throw failed(source, e);
        }
    }
}
