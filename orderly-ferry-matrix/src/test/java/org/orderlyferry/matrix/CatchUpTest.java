package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.testkit.servers.TestSystem;

/** Catch-ups by the command line: what has changed is moved and no more, also by one that was killed. */
class CatchUpTest extends CrossingCase {
    /** A source that an application goes on changing. */
    private static void change(String source, int from) throws Exception {
        try (var connection = java.sql.DriverManager.getConnection(source);
                var statement = connection.createStatement()) {
            statement.executeUpdate("UPDATE \"chamber_reading\" SET \"humidity\" = 12.5 WHERE \"id\" BETWEEN " + from
                    + " AND " + (from + 20));
            statement.executeUpdate(
                    "DELETE FROM \"chamber_reading\" WHERE \"id\" BETWEEN " + (from + 30) + " AND " + (from + 34));
            statement.executeUpdate(
                    "INSERT INTO \"chamber_reading\" (\"id\", \"chamber\", \"taken\", \"temperature\", \"alarm\")"
                            + " SELECT \"id\" + 100000, \"chamber\", \"taken\", \"temperature\", \"alarm\""
                            + " FROM \"chamber_reading\" WHERE \"id\" BETWEEN " + (from + 40) + " AND " + (from + 49));
            statement.executeUpdate("UPDATE \"taxon\" SET \"author\" = 'Quill " + from + "' WHERE \"id\" < 5");
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aCatchUpMovesWhatHasChangedAndNoMore(String system) throws Exception {
        // sources that can be cut and such as can't, by turns
        String source =
                TestSystem.of(system.equals("PostgreSQL") ? "H2" : "PostgreSQL").fresh(folder);
        must(0, "load", old, source);
        String url = TestSystem.of(system).fresh(folder);
        Path file =
                Files.createDirectories(folder.resolve("catch-up-" + system)).resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        edit(
                file,
                "follow-deletes: false",
                "follow-deletes: true",
                "slice-rows: 1000000",
                "slice-rows: 700",
                "source-moment: one",
                "source-moment: still");
        assertThat(Ferry.run("run", file, "--catch-up").err()).contains("run the crossing first");
        must(0, "run", file);

        change(source, 100);
        Ferry caught = must(0, "run", file, "--catch-up");
        assertThat(caught.out())
                .containsPattern("chamber_reading +10 +21 +3,974 +5")
                .containsPattern("taxon +0 +4 +296 +0")
                .contains("5 rows taken out of the target");
        must(0, "reconcile", source, url);
        Ferry nothing = must(0, "run", file, "--catch-up");
        assertThat(nothing.out()).containsPattern("taxon +0 +0 +300 +0").contains("proved");

        must(0, "undo", file);
        assertThat(tables(url)).isEmpty();
        assertThat(Ferry.run("run", file, "--catch-up").err()).contains("was undone");
        must(0, "run", file);
    }

    @Test
    void aColumnThatGrowsTellsWhatHasChanged() throws Exception {
        String source = TestSystem.POSTGRESQL.fresh(folder);
        must(0, "load", old, source);
        String url = TestSystem.MARIADB.fresh(folder);
        Path file = Files.createDirectories(folder.resolve("growing-column")).resolve("crossing.yaml");
        must(0, "draft", source, url, "chamber_reading", "--file", file);
        must(0, "run", file);
        // named afterwards: then the sets tell how far it had come, also when nothing has changed yet
        edit(file, "grows-by: \"\"", "grows-by: id");
        assertThat(must(0, "run", file, "--catch-up").out()).contains("export  1 table, 1 row in the set");
        try (var connection = java.sql.DriverManager.getConnection(source);
                var statement = connection.createStatement()) {
            statement.executeUpdate(
                    "INSERT INTO \"chamber_reading\" (\"id\", \"chamber\", \"taken\", \"temperature\", \"alarm\")"
                            + " SELECT \"id\" + 100000, \"chamber\", \"taken\", \"temperature\", \"alarm\""
                            + " FROM \"chamber_reading\" WHERE \"id\" < 8");
        }
        Ferry caught = must(0, "run", file, "--catch-up");
        // the last one that was seen comes once more
        assertThat(caught.out()).contains("export  1 table, 8 rows in the set");
        must(0, "reconcile", source, url, "chamber_reading");
    }

    @Test
    void aCatchUpThatIsKilledGoesOn() throws Exception {
        for (int at : new int[] {2, 9, 14, 25, 33}) {
            String source = TestSystem.H2.fresh(folder);
            must(0, "load", old, source);
            String url = TestSystem.MARIADB.fresh(folder);
            Path file = Files.createDirectories(folder.resolve("killed-catch-up" + at))
                    .resolve("crossing.yaml");
            must(0, "draft", source, url, "chamber_reading", "taxon", "--file", file);
            edit(file, "follow-deletes: false", "follow-deletes: true", "source-moment: one", "source-moment: still");
            must(0, "run", file);
            change(source, 200);
            int code = halted(file, at, "catch-up");
            assertThat(code)
                    .as(at + Files.readString(folder.resolve("halted.log")))
                    .isIn(HaltedRun.KILLED, 0);
            if (code == HaltedRun.KILLED) {
                assertThat(must(2, "run", file).err()).contains("isn't finished; let it go on first");
                assertThat(must(2, "run", file, "--from-the-start").err()).contains("can't be thrown away alone");
                assertThat(must(0, "run", file, "--catch-up").out()).contains("goes on");
            }
            must(0, "reconcile", source, url, "chamber_reading", "taxon");
        }
    }
}
