package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.testkit.servers.Databases;

/** Views of what stands in documents, by the command line. */
class ViewsTest {

    @TempDir
    Path folder;

    private Path source;
    private String target;

    @BeforeEach
    void documents() throws Exception {
        source = folder.resolve("sheets.sqlite");
        target = "jdbc:sqlite:" + folder.resolve("target.sqlite");
        Databases.run(
                "jdbc:sqlite:" + source,
                "CREATE TABLE sheet(no INTEGER PRIMARY KEY, document JSON, marks JSON)",
                "CREATE TABLE plain(no INTEGER PRIMARY KEY)",
                "INSERT INTO sheet(no, document) VALUES(1, '{\"place\":{\"hall\":\"A\"},\"n\":1}'),"
                        + "(2, '{\"place\":{\"hall\":\"A\"},\"n\":2}'), (3, '{\"n\":30000000000}'), (4, NULL)",
                "UPDATE sheet SET marks = '[1, 2]' WHERE no < 3");
    }

    private Ferry must(int code, Object... arguments) {
        Ferry ferry = Ferry.run(arguments);
        assertThat(ferry.code()).as(ferry.out() + ferry.err()).isEqualTo(code);
        return ferry;
    }

    @Test
    void aLoadMakesThemAndSaysSo() throws Exception {
        Ferry tried = must(0, "load", source, target, "--views", "all", "--try");
        assertThat(tried.out())
                .contains("Would make view sheet_fields over sheet")
                .contains("2 paths");
        assertThat(must(0, "load", source, target, "--views", "all").out())
                .contains(
                        "Made view sheet_fields over sheet: 2 columns of its own, 2 paths of its documents, each with as"
                                + " many values");
        assertThat(Databases.rows(
                        target,
                        "SELECT \"place.hall\", COUNT(*), SUM(n) FROM sheet_fields GROUP BY 1 ORDER BY COUNT(*), 3"))
                .containsExactlyInAnyOrder("null 2 30000000000", "A 2 3");
        must(0, "reconcile", source, target, "--depth", "rows");
        assertThat(must(1, "load", source, target, "--onto", "append", "sheet", "--try")
                        .out())
                .contains("column no: '1' is in a record of the target already");
        Ferry again = must(0, "load", source, target, "--onto", "merge", "sheet", "--views", "n", "--try", "--json");
        assertThat(again.out()).contains("\"tried\" : true");
    }

    @Test
    void whatCantBeMadeIsToldAndTheTablesAreThere() throws Exception {
        Databases.run(target, "CREATE VIEW sheet_fields AS SELECT 1 AS n");
        Ferry ferry = must(1, "load", source, target, "--views", "n", "--json");
        assertThat(ferry.out())
                .contains("\"made\" : false", "already exists", "\"path\" : \"n\"", "\"type\" : \"BIGINT\"");
        assertThat(Databases.rows(target, "SELECT COUNT(*) FROM sheet")).containsExactly("4");
        assertThat(must(2, "load", source, folder.resolve("x.sqlite"), "--views", "m")
                        .err())
                .contains("no document", "m;", "nearest path is n");
        assertThat(folder.resolve("x.sqlite")).doesNotExist();
        assertThat(must(2, "load", source, folder.resolve("x.sqlite"), "plain", "--views", "all")
                        .err())
                .contains("no table", "column of JSON");
        Path csv = folder.resolve("x.csv");
        assertThat(must(2, "load", source, csv, "sheet", "--views", "all").err())
                .contains("no views can be made in");
        assertThat(csv).doesNotExist();
        must(2, "draft", source, folder.resolve("x.xml"), "--file", folder.resolve("x.yaml"), "--views", "all");
    }

    @Test
    void aCrossingHasThemAmongItsStatementsAndUndoesThem() throws Exception {
        Path file = folder.resolve("crossing.yaml");
        must(0, "draft", source, target, "--file", file, "--views", "place.hall");
        assertThat(Files.readString(file)).contains("CREATE VIEW", "place.hall", "DROP VIEW");
        must(2, "draft", source, target, "--file", file, "--views", "all");
        must(0, "check", file);
        must(0, "run", file);
        assertThat(Databases.rows(target, "SELECT \"place.hall\" FROM sheet_fields ORDER BY no"))
                .containsExactly("A", "A", "null", "null");
        must(0, "undo", file);
        assertThat(Databases.rows(target, "SELECT name FROM sqlite_master WHERE type = 'view'"))
                .isEmpty();
    }
}
