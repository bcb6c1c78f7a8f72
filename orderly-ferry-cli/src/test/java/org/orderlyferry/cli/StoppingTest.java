package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** Who stops doesn't wait for what a server is doing. */
class StoppingTest {

    @TempDir
    Path folder;

    private String place(String system) throws Exception {
        return TestSystem.of(system).fresh(folder);
    }

    private static Ferry stopped(StopSignal stop, Object... arguments) throws Exception {
        String[] texts = new String[arguments.length];
        for (int i = 0; i < texts.length; i++) {
            texts[i] = arguments[i].toString();
        }
        CompletableFuture<Ferry> run = CompletableFuture.supplyAsync(() -> Ferry.run(Terminal.NONE, stop, texts));
        Thread.sleep(1_500);
        assertThat(run.isDone()).as("it ended before it could be stopped").isFalse();
        stop.stop();
        // what it was at would go on for a minute and more
        return run.get(15, TimeUnit.SECONDS);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            H2         | SELECT SUM(A.X * B.X) AS s FROM SYSTEM_RANGE(1, 1000000) A, SYSTEM_RANGE(1, 1000000) B
            SQLite     | WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT SUM(i) AS s FROM n
            PostgreSQL | SELECT pg_sleep(60)::text AS s
            MariaDB    | SELECT COUNT(*) AS s FROM many a, many b, many c, many d, many e, many f, many g, many h, many i
            """)
    void aQueryThatRunsIsCancelled(String system, String query) throws Exception {
        String source = place(system);
        Databases.run(source, "CREATE TABLE many (n INTEGER)");
        for (int i = 0; i < 40; i++) {
            Databases.run(source, "INSERT INTO many VALUES (" + i + ")");
        }
        Path set = folder.resolve("set");
        Ferry export = stopped(new StopSignal(), "export", source, set, "--query", "q=" + query);
        assertThat(export.code()).isEqualTo(3);
        assertThat(export.err()).contains("stopped; nothing half-made is left");
        assertThat(set).doesNotExist();
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void aLoadThatWaitsForALockIsUndone(String system) throws Exception {
        String target = place(system);
        Databases.run(target, "CREATE TABLE label (n INTEGER PRIMARY KEY, t VARCHAR(20))");
        Path file = Files.writeString(folder.resolve("label.csv"), "n,t\r\n1,moss\r\n");
        try (var other = Databases.connect(target);
                var statement = other.createStatement()) {
            other.setAutoCommit(false);
            statement.execute(
                    system.equals("MariaDB") ? "SELECT * FROM label" : "LOCK TABLE label IN ACCESS EXCLUSIVE MODE");
            Ferry load = stopped(new StopSignal(), "load", "--onto", "replace", file, target);
            assertThat(load.code()).as(load.err()).isEqualTo(3);
            assertThat(load.err()).contains("stopped");
            other.rollback();
        }
        assertThat(Databases.rows(target, "SELECT COUNT(*) FROM label")).containsExactly("0");
        assertThat(Ferry.run("load", "--onto", "replace", file, target).code()).isZero();
        assertThat(Databases.rows(target, "SELECT * FROM label")).containsExactly("1 moss");
    }

    @Test
    void whatIsStoppedBeforeItBeginsDoesNothing() throws Exception {
        Path file = Files.writeString(folder.resolve("label.csv"), "n,t\r\n1,moss\r\n");
        StopSignal stop = new StopSignal();
        stop.stop();
        Ferry load = Ferry.run(
                Terminal.NONE,
                stop,
                "load",
                file.toString(),
                folder.resolve("label.sqlite").toString());
        assertThat(load.code()).isEqualTo(3);
        assertThat(folder.resolve("label.sqlite")).doesNotExist();
    }
}
