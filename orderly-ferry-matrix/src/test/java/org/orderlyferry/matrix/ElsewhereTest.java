package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.crossing.Crossing;
import org.orderlyferry.crossing.Run;
import org.orderlyferry.crossing.RunListener;
import org.orderlyferry.crossing.RunResult;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.ComparedTable;
import org.orderlyferry.reconcile.RowCounts;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;

/** Crossings whose slices are run by other processes, some of them twice at the same time. */
class ElsewhereTest extends CrossingCase {

    private static final int READINGS = 12_000;

    private static String target(String system, String name) throws Exception {
        return switch (system) {
            case "PostgreSQL" -> Servers.newPostgres();
            case "MariaDB" -> Servers.newMaria();
            default -> folder.resolve(name + ".mv.db").toString();
        };
    }

    private static void has(String target, String table, int rows) throws Exception {
        assertThat(Databases.rows(target, "SELECT COUNT(*) FROM " + table)).containsExactly(String.valueOf(rows));
    }

    @ParameterizedTest
    @CsvSource({"PostgreSQL, 1", "PostgreSQL, 3", "MariaDB, 1", "MariaDB, 3"})
    void aTaskThatRunsTwiceCountsOnce(String system, int together) throws Exception {
        String name = "twice-" + system + together;
        String to = target(system, name);
        Path file = draft(
                name, Readings.of(READINGS), to, "slice-rows: \\d+", "slice-rows: 1000", "lanes: \\d+", "lanes: 3");
        OtherProcesses engine = new OtherProcesses(together, n -> n % 4 == 1, -1);
        Told told = new Told();
        RunResult result =
                Run.of(Crossing.read(file)).engine(engine).listener(told).run();
        assertThat(result.equal()).isTrue();
        // out, in, and both sides of the proof; what runs twice is told once
        assertThat(told.rows).hasValue(4 * (READINGS + 40));
        assertThat(engine.sent.stream().filter(s -> s.contains("\"errand\":\"tally\"")))
                .hasSize(2);
        has(to, "reading", READINGS);
        has(to, "chamber", 40);
        assertThat(engine.sent).hasSizeGreaterThan(24);
        // nothing is left of attempts that didn't count
        assertThat(files(result.folder().resolve("set")))
                .noneMatch(f -> f.contains(".attempts") || f.contains(".receipts"));
        assertThat(tables(to)).containsExactly("chamber", "reading");
    }

    @ParameterizedTest
    @CsvSource({"PostgreSQL, 4", "MariaDB, 9"})
    void whoLeadsTheWorkMayDieAndItGoesOn(String system, int dying) throws Exception {
        String name = "dies-" + system;
        String to = target(system, name);
        Path file = draft(
                name,
                Readings.of(READINGS),
                to,
                "slice-rows: \\d+",
                "slice-rows: 1000",
                "lanes: \\d+",
                "lanes: 2",
                "source-moment: one",
                "source-moment: still");
        Crossing crossing = Crossing.read(file);
        assertThatThrownBy(() -> Run.of(crossing)
                        .engine(new OtherProcesses(1, n -> false, dying))
                        .run())
                .isInstanceOf(FerryException.class);
        // the export goes on, and the load is cut short in its turn
        assertThatThrownBy(() -> Run.of(crossing)
                        .engine(new OtherProcesses(2, n -> false, dying))
                        .run())
                .isInstanceOf(FerryException.class);
        RunResult result =
                Run.of(crossing).engine(new OtherProcesses(2, n -> n == 7, -1)).run();
        assertThat(result.wentOn()).isTrue();
        assertThat(result.equal()).isTrue();
        has(to, "reading", READINGS);
        assertThat(tables(to)).containsExactly("chamber", "reading");
    }

    /** Whatever becomes of tables that are there, other processes prove it, too. */
    @ParameterizedTest
    @CsvSource({"PostgreSQL, append", "PostgreSQL, merge", "MariaDB, replace", "MariaDB, merge"})
    void whatIsThereIsProvenElsewhere(String system, String onto) throws Exception {
        String to = target(system, onto + system);
        String from = Readings.of(READINGS);
        Path file = draft("first-" + onto + system, from, to, "slice-rows: \\d+", "slice-rows: 3000");
        must(0, "run", file);
        Databases.run(to, "UPDATE reading SET note = 'pressed' WHERE id = 77", "DELETE FROM reading WHERE id > 11000");
        if (onto.equals("append")) {
            Databases.run(
                    to,
                    "ALTER TABLE reading DROP CONSTRAINT reading_chamber_fkey",
                    "DELETE FROM chamber",
                    "DELETE FROM reading WHERE id >= 6000");
            edit(file, "(  reading:[\\s\\S]*?where: )\"\"", "$1id >= 6000");
        }
        edit(file, "onto: refuse", "onto: " + onto);
        OtherProcesses engine = new OtherProcesses(1, n -> false, -1);
        RunResult result = Run.of(Crossing.read(file)).engine(engine).run();
        assertThat(result.equal()).isTrue();
        assertThat(engine.sent).anyMatch(s -> s.contains("\"errand\":\"tally\"") || onto.equals("merge"));
    }

    /** Only of tables that differ are single records read by the one who leads. */
    @Test
    void recordsThatDifferAreFoundAfterwards() throws Exception {
        String to = Servers.newPostgres();
        Path file = draft(
                "differ",
                Readings.of(READINGS),
                to,
                "slice-rows: \\d+",
                "slice-rows: 3000",
                "proof: digests",
                "proof: rows",
                "after: \\[\\]",
                "after: [{ run: UPDATE reading SET note = 'pressed' WHERE id BETWEEN 77 AND 78 }]");
        OtherProcesses engine = new OtherProcesses(1, n -> n == 2, -1);
        RunResult result = Run.of(Crossing.read(file)).engine(engine).run();
        assertThat(result.equal()).isFalse();
        List<ComparedTable> tables = result.proof().orElseThrow().tables();
        assertThat(tables)
                .extracting(t -> t.table().name(), t -> t.rows().orElseThrow())
                .containsExactlyInAnyOrder(tuple("chamber", RowCounts.NONE), tuple("reading", new RowCounts(0, 0, 2)));
        assertThat(tables).filteredOn(t -> t.rows().get().all() > 0).allMatch(t -> t.differing()
                .equals(List.of("note")));
        assertThat(engine.sent).anyMatch(s -> s.contains("\"errand\":\"tally\""));
    }

    /** Nobody reads a whole set for its checksums alone: what was changed in it is found by the records' tallies, before it lasts. */
    @ParameterizedTest
    @CsvSource({"PostgreSQL, same size", "PostgreSQL, longer", "PostgreSQL, gone"})
    void aSetThatIsChangedBeforeItIsLoadedIsRefused(String system, String how) throws Exception {
        String to = target(system, "changed");
        Path file = draft(
                "changed " + how,
                Readings.of(READINGS),
                to,
                "slice-rows: \\d+",
                "slice-rows: 1000",
                "before: \\[\\]",
                "before: [{ run: SELECT 1 / 0 }]");
        Crossing crossing = Crossing.read(file);
        assertThatThrownBy(() -> Run.of(crossing)
                        .engine(new OtherProcesses(1, n -> false, -1))
                        .run())
                .isInstanceOf(FerryException.class);
        String part = files(file.resolveSibling("runs")).stream()
                .filter(f -> f.endsWith("reading-0007.csv"))
                .findFirst()
                .orElseThrow();
        switch (how) {
            case "same size" ->
                Files.writeString(Path.of(part), Files.readString(Path.of(part)).replace("sheet", "shoot"));
            case "longer" -> Files.writeString(Path.of(part), Files.readString(Path.of(part)) + "\n");
            default -> Files.delete(Path.of(part));
        }
        assertThatThrownBy(() -> Run.of(crossing)
                        .statement(Run.StatementDecision.DONE)
                        .engine(new OtherProcesses(1, n -> false, -1))
                        .run())
                .isInstanceOf(FerryException.class)
                .hasMessageContaining(how.equals("same size") ? "reading" : "reading-0007.csv");
        assertThat(tables(to)).isEmpty();
    }

    private static final class Told implements RunListener {
        final AtomicLong rows = new AtomicLong();

        @Override
        public void moved(TableName table, long count, long bytes) {
            rows.addAndGet(count);
        }
    }

    @Test
    void noSecretIsHandedOn() throws Exception {
        String to = Servers.newMaria();
        String from = Readings.of(READINGS);
        Path file = draft("secret", from, to);
        edit(file, "(from: [^\\n]*?)(\\?)", "$1?password=\\${env:PATH}&");
        OtherProcesses engine = new OtherProcesses(1, n -> false, -1);
        assertThat(Run.of(Crossing.read(file)).engine(engine).run().equal()).isTrue();
        assertThat(engine.sent)
                .anyMatch(s -> s.contains("${env:PATH}"))
                .noneMatch(s -> s.contains(System.getenv("PATH")));
    }

    @Test
    void aPasswordThatStandsInTheCrossingIsNotSent() throws Exception {
        Path file = draft("open", Readings.of(READINGS), Servers.newMaria());
        edit(file, "(from: [^\\n]*?)(\\?)", "$1?password=m0ss-and-fern&");
        Run run = Run.of(Crossing.read(file));
        assertThatThrownBy(() -> run.engine(new OtherProcesses(1, n -> false, -1)))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("a password stands in the address")
                .hasMessageNotContaining("m0ss-and-fern");
    }

    @Test
    void aSourceThatShowsNoCommonMomentNeedsToStandStill() throws Exception {
        String to = Servers.newPostgres();
        Path file = draft("still", small, to);
        Crossing crossing = Crossing.read(file);
        OtherProcesses engine = new OtherProcesses(1, n -> false, -1);
        assertThatThrownBy(() -> Run.of(crossing).engine(engine).run())
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("can't show one moment to several processes");
        assertThat(tables(to)).isEmpty();
    }

    @Test
    void aTargetThatOneWritesIsRefused() throws Exception {
        Path file =
                draft("one", Readings.of(READINGS), folder.resolve("one.sqlite").toString());
        assertThatThrownBy(() -> Run.of(Crossing.read(file))
                        .engine(new OtherProcesses(1, n -> false, -1))
                        .run())
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("can't be written by several processes at once");
    }

    /** A value that the target can't hold ends the work, with the record's key in the message. */
    @Test
    void whatFailsElsewhereIsToldHere() throws Exception {
        String from = Readings.of(READINGS);
        Databases.run(from, "UPDATE reading SET note = repeat('x', 300) WHERE id = 7777");
        String to = Servers.newMaria();
        Path file = draft("fails", from, to, "slice-rows: \\d+", "slice-rows: 1000");
        String text = Files.readString(file).replaceFirst("CHARACTER LARGE OBJECT", "CHARACTER VARYING(200)");
        Files.writeString(file, text);
        assertThatThrownBy(() -> Run.of(Crossing.read(file))
                        .engine(new OtherProcesses(1, n -> false, -1))
                        .run())
                .isInstanceOf(FerryException.class)
                .hasMessageContaining("note");
        assertThat(tables(to)).isEmpty();
    }

    private static List<String> files(Path folder) throws Exception {
        try (Stream<Path> all = Files.walk(folder)) {
            return all.map(Path::toString).toList();
        }
    }
}
