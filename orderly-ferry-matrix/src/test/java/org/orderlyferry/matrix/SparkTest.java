package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.cluster.hdfs.MiniCluster;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;

/**
 * PostgreSQL, a set in HDFS, MariaDB, on a Spark cluster of which a worker is killed in the middle of the export and another one in
 * the middle of the load. More of it with {@code -Dferry.cluster.rows=4000000 -Dferry.cluster.slices=64}.
 */
@Tag("cluster")
class SparkTest {

    private static final int ROWS = Integer.getInteger("ferry.cluster.rows", 60_000);
    private static final int SLICES = Integer.getInteger("ferry.cluster.slices", 16);
    private static final String SECRET = "herb4rium-s3cret";
    private static final Path BUILT =
            Path.of("..", "orderly-ferry-dist", "target").toAbsolutePath().normalize();
    private static final Path JARS = BUILT.resolve("orderly-ferry-0.1.0").resolve("lib");
    private static final Path JAR = BUILT.resolve("orderly-ferry-0.1.0-spark.jar");

    @TempDir
    Path folder;

    private static Process run(Path crossing, SparkCluster cluster, Path log) throws Exception {
        List<String> command = new ArrayList<>(List.of(
                SparkCluster.java(), "-cp", JARS + "/*", "org.orderlyferry.cli.Main", "run", crossing.toString()));
        command.addAll(List.of("--engine", "spark", "--master", cluster.address()));
        ProcessBuilder builder =
                new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(log.toFile());
        builder.environment().putAll(SparkCluster.settings());
        builder.environment().put("QUILLMOOR_PASSWORD", SECRET);
        return builder.start();
    }

    /** Waits until so many receipts are in the set that grows. */
    private static void exported(Path runs, int slices, Process run, Path log) throws Exception {
        for (int i = 0; i < 600; i++) {
            if (Files.isDirectory(runs)) {
                try (Stream<Path> all = Files.walk(runs)) {
                    if (all.filter(p -> p.toString().contains("/.receipts/")
                                            && p.toString().endsWith(".json"))
                                    .count()
                            >= slices) {
                        return;
                    }
                } catch (java.io.UncheckedIOException e) {
                    // folders come and go
                }
            }
            assertThat(run.isAlive()).as(Files.readString(log)).isTrue();
            Thread.sleep(200);
        }
        throw new AssertionError("no slice is exported: " + Files.readString(log));
    }

    /** Waits until so many receipts are in the target. */
    private static void loaded(String target, int slices, Process run, Path log) throws Exception {
        for (int i = 0; i < 600; i++) {
            try {
                String table = Databases.rows(
                                target,
                                "SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name"
                                        + " LIKE '%receipt%'")
                        .stream()
                        .findFirst()
                        .orElse("");
                if (!table.isEmpty()
                        && Integer.parseInt(Databases.rows(target, "SELECT COUNT(*) FROM " + table)
                                        .get(0))
                                >= slices) {
                    return;
                }
            } catch (java.sql.SQLException e) {
                // it comes and goes
            }
            assertThat(run.isAlive()).as(Files.readString(log)).isTrue();
            Thread.sleep(200);
        }
        throw new AssertionError("no slice is loaded: " + Files.readString(log));
    }

    @Test
    void workersAreKilledAndEachRecordIsThereOnce() throws Exception {
        String from = Readings.of(ROWS);
        String to = Servers.newMaria();
        Path runs = MiniCluster.folder().resolve("runs");
        Path crossing = folder.resolve("crossing.yaml");
        assertThat(Ferry.run("draft", from, to, "--file", crossing).code()).isZero();
        Files.writeString(
                crossing,
                Files.readString(crossing)
                        .replaceFirst("(from: [^\\n]*?)(\\?)", "$1?password=\\${env:QUILLMOOR_PASSWORD}&")
                        .replaceFirst("keep: .*", "keep: " + WrittenPath.of(runs))
                        .replaceFirst("lanes: \\d+", "lanes: 3")
                        .replaceFirst("slice-rows: \\d+", "slice-rows: " + ROWS / SLICES));
        Path log = folder.resolve("run.log");
        Map<String, String> environment = new HashMap<>(Map.of("QUILLMOOR_PASSWORD", SECRET));
        try (SparkCluster cluster = new SparkCluster(Files.createDirectories(folder.resolve("spark")), environment)) {
            Process first = cluster.worker();
            Process second = cluster.worker();
            Process run = run(crossing, cluster, log);
            try {
                exported(runs, SLICES / 8, run, log);
                SparkCluster.kill(first);
                cluster.worker();
                loaded(to, SLICES / 8, run, log);
                SparkCluster.kill(second);
                assertThat(run.waitFor(10, TimeUnit.MINUTES)).isTrue();
            } finally {
                run.descendants().forEach(ProcessHandle::destroyForcibly);
                run.destroyForcibly();
            }
            String told = Files.readString(log);
            assertThat(run.exitValue()).as(told).isZero();
            assertThat(told).contains("Done, and proved.").contains("Lost executor");
            // executors have it by their environment, and nobody has shown it
            assertThat(told + cluster.logs()).contains("Lost executor").doesNotContain(SECRET);
        }
        assertThat(Databases.rows(to, "SELECT COUNT(*), COUNT(DISTINCT id), MIN(id), MAX(id) FROM reading"))
                .containsExactly(ROWS + " " + ROWS + " 1 " + ROWS);
        assertThat(Databases.rows(to, "SELECT COUNT(*) FROM chamber")).containsExactly("40");
        // a bag in HDFS, read where it is
        Path run;
        try (Stream<Path> all = Files.list(runs)) {
            run = all.filter(p -> p.getFileName().toString().startsWith("20"))
                    .findFirst()
                    .orElseThrow();
        }
        Ferry equal = Ferry.run("reconcile", WrittenPath.of(run.resolve("set")), to);
        assertThat(equal.code()).as(equal.out() + equal.err()).isZero();
    }

    /** The one jar, as Spark's own program takes it; with Spark's libraries before ours it says what is missing. */
    @Test
    void oneJarIsSubmitted() throws Exception {
        String to = Servers.newMaria();
        Path crossing = folder.resolve("submitted.yaml");
        assertThat(Ferry.run("draft", Readings.of(3000), to, "--file", crossing).code())
                .isZero();
        Path log = folder.resolve("submitted.log");
        assertThat(SparkCluster.submit(log, JAR, "run", crossing, "--engine", "spark"))
                .isEqualTo(2);
        assertThat(Files.readString(log))
                .contains("submit it with --conf spark.driver.userClassPathFirst=true")
                .doesNotContain("Exception");
        assertThat(SparkCluster.submit(log, SparkCluster.oursFirst(JAR, "run", crossing, "--engine", "spark")))
                .as(Files.readString(log))
                .isZero();
        assertThat(Files.readString(log)).contains("Done, and proved.");
        assertThat(Databases.rows(to, "SELECT COUNT(*) FROM reading")).containsExactly("3000");
    }

    /** By Ctrl-C, of which Spark hears, too. */
    @Test
    void aRunThatIsInterruptedGoesOn() throws Exception {
        String to = Servers.newMaria();
        Path crossing = folder.resolve("interrupted.yaml");
        assertThat(Ferry.run("draft", Readings.of(20_000), to, "--file", crossing)
                        .code())
                .isZero();
        Files.writeString(
                crossing,
                Files.readString(crossing)
                        .replaceFirst("source-moment: one", "source-moment: still")
                        .replaceFirst("slice-rows: \\d+", "slice-rows: 1000")
                        .replaceFirst("rows-per-second: 0", "rows-per-second: 3000"));
        Path log = folder.resolve("interrupted.log");
        Process run = SparkCluster.submitted(log, SparkCluster.oursFirst(JAR, "run", crossing, "--engine", "spark"));
        exported(folder.resolve("runs"), 2, run, log);
        assertThat(new ProcessBuilder("kill", "-INT", String.valueOf(run.pid()))
                        .start()
                        .waitFor())
                .isZero();
        assertThat(run.waitFor(1, TimeUnit.MINUTES)).isTrue();
        // Spark's log has more: what its own threads were at when it ended
        assertThat(Files.readAllLines(log).stream().filter(l -> l.startsWith("ferry: ")))
                .as(Files.readString(log))
                .singleElement()
                .asString()
                .startsWith("ferry: stopped. What is done stays");
        Files.writeString(
                crossing, Files.readString(crossing).replaceFirst("rows-per-second: 3000", "rows-per-second: 0"));
        Ferry ended = Ferry.run("run", crossing);
        assertThat(ended.code()).as(ended.out() + ended.err()).isZero();
        assertThat(ended.out()).contains("goes on").contains("Done, and proved.");
        assertThat(Databases.rows(to, "SELECT COUNT(*) FROM reading")).containsExactly("20000");
    }

    @Test
    void whatIsNoEngineAndWhatIsNoPathIsTold() {
        Ferry colon = Ferry.run("export", folder.resolve("none.sqlite"), "hdfs://namenode/sets/12:30");
        assertThat(colon.code()).isEqualTo(2);
        assertThat(colon.err()).contains("a name in HDFS can have no colon").doesNotContain("Exception");
        Ferry ferry = Ferry.run("run", folder.resolve("none.yaml"), "--engine", "flink");
        assertThat(ferry.code()).isEqualTo(2);
        assertThat(ferry.err()).contains("there is no engine flink; there are local, spark");
        assertThat(Ferry.run("run", folder.resolve("none.yaml"), "--master", "spark://a:1")
                        .err())
                .contains("--master goes with an engine of a cluster");
    }
}
