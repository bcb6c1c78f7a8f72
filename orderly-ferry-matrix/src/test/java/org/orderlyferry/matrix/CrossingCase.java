package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.cli.FerryProcess;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.herbarium.Herbarium;

/** Two herbaria, and how crossings of them are drafted, edited, halted and run by the command line. */
abstract class CrossingCase {
    @TempDir
    protected static Path folder;

    protected static Path old;
    protected static Path small;

    @BeforeAll
    static void makeTwoHerbaria() throws Exception {
        old = folder.resolve("old.mv.db");
        new Herbarium().specimens(200).readings(4_000).commonDates(true).create(old);
        small = folder.resolve("small.mv.db");
        new Herbarium().specimens(20).readings(50).commonDates(true).create(small);
    }

    protected static Path draft(String name, Object from, String to, String... changes) throws Exception {
        Path file = Files.createDirectories(folder.resolve(name)).resolve("crossing.yaml");
        Ferry drafted = Ferry.run("draft", from, to, "--file", file);
        assertThat(drafted.code()).as(drafted.err()).isZero();
        edit(file, changes);
        return file;
    }

    /** Pairs of what stands there and what is to. */
    protected static void edit(Path file, String... changes) throws Exception {
        String text = Files.readString(file);
        for (int i = 0; i < changes.length; i += 2) {
            assertThat(text).containsPattern(changes[i]);
            text = text.replaceFirst(changes[i], changes[i + 1]);
        }
        Files.writeString(file, text);
    }

    protected static Ferry must(int code, Object... arguments) {
        Ferry done = Ferry.run(arguments);
        assertThat(done.code())
                .as(List.of(arguments) + "\n" + done.out() + done.err())
                .isEqualTo(code);
        return done;
    }

    /** Has a database run SQL by its driver, as somebody else would. */
    protected static void run(String url, String... statements) throws Exception {
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        }
    }

    /** The folder of a crossing's last run. */
    protected static Path lastRun(Path file) throws Exception {
        try (Stream<Path> runs = Files.list(file.resolveSibling("runs"))) {
            return runs.filter(Files::isDirectory).max(Path::compareTo).orElseThrow();
        }
    }

    protected static List<String> tables(String place) {
        try (Place open = Places.openTarget(place)) {
            return open.tables().stream().map(TableName::toString).sorted().toList();
        }
    }

    protected static int halted(Path file, int at, String... kind) throws Exception {
        Process process = FerryProcess.start(
                HaltedRun.class,
                "128m",
                ProcessBuilder.Redirect.to(folder.resolve("halted.log").toFile()),
                file,
                at,
                kind.length == 0 ? "run" : kind[0]);
        assertThat(process.waitFor(3, TimeUnit.MINUTES)).isTrue();
        return process.exitValue();
    }
}
