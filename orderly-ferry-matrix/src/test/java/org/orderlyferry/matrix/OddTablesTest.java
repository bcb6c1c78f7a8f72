package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.cli.Colour;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;

/** Tables and names in shapes that the herbarium hasn't. */
class OddTablesTest {

    @TempDir
    Path folder;

    private String target(String system) throws Exception {
        return TestSystem.of(system).fresh(folder);
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aWideTableOfNullsArrives(String system) throws Exception {
        // so many texts are too much for a row of InnoDB's, and that is said
        int width = system.equals("MariaDB") ? 300 : 700;
        StringBuilder text = new StringBuilder("n");
        for (int i = 1; i < width; i++) {
            text.append(",c").append(i);
        }
        text.append("\r\n");
        for (int row = 0; row < 600; row++) {
            text.append(row).append(",".repeat(width - 1)).append("\r\n");
        }
        Path file = Files.writeString(folder.resolve("wide.csv"), text);
        String target = target(system);
        Ferry load = Ferry.run("load", file, target);
        assertThat(load.code()).as(load.err()).isZero();
        assertThat(Databases.rows(target, "SELECT COUNT(*) FROM " + (system.equals("MariaDB") ? "`wide`" : "\"wide\"")))
                .containsExactly("600");
        assertThat(Ferry.run("reconcile", file, target).code()).isZero();
    }

    private static List<String> read(Place place, Slice slice) {
        List<String> rows = new ArrayList<>();
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = place.read(slice)) {
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    rows.add(batch.text(row, 0));
                }
            }
        }
        return rows;
    }

    @ParameterizedTest
    @ValueSource(strings = {"label.csv", "label.jsonl", "label.sqlite", "set"})
    void aRangeIsGivenByWhateverHasTheTable(String kind) throws Exception {
        StringBuilder text = new StringBuilder("n,t\r\n");
        for (int i = 0; i < 300; i++) {
            text.append(i).append(i % 7 == 0 ? "," : ",moss").append("\r\n");
        }
        Path csv = Files.writeString(folder.resolve("label.csv"), text);
        Path place = folder.resolve(kind);
        if (kind.endsWith("sqlite")) {
            assertThat(Ferry.run("load", csv, place).code()).isZero();
        } else if (!kind.equals("label.csv")) {
            assertThat(Ferry.run("convert", csv, place).code()).isZero();
        }
        try (Place opened = Places.open(place.toString())) {
            Slice whole = Slice.whole(opened.define(TableName.of("label")));
            assertThat(read(opened, whole)).hasSize(300);
            Slice some = whole.within(new KeyRange(List.of("n"), List.of("100"), List.of("120"), false));
            assertThat(read(opened, some)).hasSize(20).startsWith("100").endsWith("119");
            Slice rest = whole.within(new KeyRange(List.of("n"), List.of("290"), List.of(), false));
            assertThat(read(opened, rest)).hasSize(10);
            assertThat(read(opened, whole.within(KeyRange.nulls("t")))).hasSize(43);
        }
    }

    @ParameterizedTest
    @CsvSource({"convert, out.xlsb", "export, out.xlsb", "export, out.csv"})
    void anEndingThatNobodyWritesIsNotAFolder(String command, String name) throws Exception {
        Path csv = Files.writeString(folder.resolve("label.csv"), "n,t\r\n1,moss\r\n");
        assertThat(Ferry.run("load", csv, folder.resolve("s.sqlite")).code()).isZero();
        Ferry ferry = Ferry.run(command, folder.resolve("s.sqlite"), folder.resolve(name));
        assertThat(ferry.code()).isEqualTo(2);
        assertThat(ferry.err()).contains("ends as a file does", ".jsonl");
        assertThat(folder.resolve(name)).doesNotExist();
    }

    /** SQLite lets a column be called by blanks, which reads as no heading, and by nothing at all. */
    @ParameterizedTest
    @ValueSource(strings = {"set", "out.xlsx", "out.ods", "out.xml", "out.sql", "out.accdb", "out.mv.db"})
    void namesOfBlanksComeBackAndNamesOfNothingAreTold(String name) throws Exception {
        Path from = folder.resolve("odd.sqlite");
        Databases.run(
                "jdbc:sqlite:" + from,
                "CREATE TABLE blank (\"  \" TEXT, a INT, \" \" INT, \" a\" INT, \"a \" INT, \"\u00a0\" INT, \"\t\" INT)",
                "INSERT INTO blank VALUES ('x', 1, 2, 3, 4, 5, 6)",
                "CREATE TABLE one (\" \" TEXT)",
                "INSERT INTO one VALUES (NULL), (''), ('y')",
                "CREATE TABLE nameless (a INT, \"\" INT)",
                "CREATE TABLE \"\" (a INT)");
        Path to = folder.resolve(name);
        String command = name.equals("set") ? "export" : name.equals("out.mv.db") ? "load" : "convert";
        Ferry ferry = Ferry.run(command, from, to);
        assertThat(ferry.code()).as(ferry.err()).isZero();
        assertThat(ferry.out()).contains("table nameless", "table (without a name)");
        assertThat(Ferry.run("reconcile", from, to).out()).contains("2 of 2 tables equal");
        Path back = folder.resolve("back.sqlite");
        assertThat(Ferry.run("load", to, back).code()).isZero();
        assertThat(Ferry.run("reconcile", from, back).out()).contains("2 of 2 tables equal");
    }

    @ParameterizedTest
    @CsvSource({
        "convert, out.parquet, orderly-ferry-columnar",
        "export, out.parquet, orderly-ferry-columnar",
        "load, out.avro, orderly-ferry-columnar",
        "load, out.arrow, Parquet"
    })
    void aKindThatIsElsewhereIsToldWhere(String command, String name, String told) throws Exception {
        Path csv = Files.writeString(folder.resolve("label.csv"), "n,t\r\n1,moss\r\n");
        Ferry ferry = Ferry.run(command, csv, folder.resolve(name));
        assertThat(ferry.code()).isEqualTo(2);
        assertThat(ferry.err()).contains(name, told);
        assertThat(folder.resolve(name)).doesNotExist();
        Files.writeString(folder.resolve(name), "PAR1");
        assertThat(Ferry.run("look", folder.resolve(name)).err()).contains(name, told);
    }

    @Test
    void exportTakesTypes() throws Exception {
        String source = target("SQLite");
        Databases.run(source, "CREATE TABLE bed (n TEXT, t TEXT)", "INSERT INTO bed VALUES ('7', 'x'), ('8', 'y')");
        Path set = folder.resolve("set");
        assertThat(Ferry.run("export", source, set, "--type", "n=INTEGER").code())
                .isZero();
        assertThat(Ferry.run("look", set, "bed").out()).contains("INTEGER");
        Ferry bad = Ferry.run("export", source, folder.resolve("bad"), "--type", "bed.t=INTEGER");
        assertThat(bad.code()).isEqualTo(3);
        assertThat(bad.err()).contains("record 1", "column t", "'x'");
    }

    @Test
    void nothingInANameReachesTheTerminal() throws Exception {
        String source = target("SQLite");
        String evil = "e\u001b]0;owned\u0007\u001b[31mvil\u202E\u009b2J";
        Databases.run(
                source,
                "CREATE TABLE \"" + evil + "\" (n TEXT, \"" + evil + "\" TEXT)",
                "INSERT INTO \"" + evil + "\" VALUES ('\u001b[2J', NULL)");
        for (Ferry ferry : List.of(
                Ferry.run(
                        new org.orderlyferry.cli.Terminal(true, true, Colour.AUTO, 120),
                        new org.orderlyferry.progress.StopSignal(),
                        "look",
                        source),
                Ferry.run("look", source, evil),
                Ferry.run("export", source, folder.resolve("set" + evil.length())),
                Ferry.run("look", source, evil + "x"),
                Ferry.run("look", folder.resolve("no\u001b[31mwhere")),
                Ferry.run("load", "--\u001b[31mwhere"))) {
            String bare = (ferry.out() + ferry.err()).replaceAll("\u001b\\[(0|1|2|31|32|33)m", "");
            assertThat(bare.chars()
                            .filter(c -> c != '\n' && (Character.isISOControl(c) || c == 0x202E))
                            .toArray())
                    .as(bare)
                    .isEmpty();
        }
        assertThat(Ferry.run("look", source).out()).contains("\\u001b]0;owned\\u0007\\u001b[31mvil\\u202e\\u009b2J");
    }

    @Test
    void triesWithSeveralLanesCountTheSame() throws Exception {
        StringBuilder text = new StringBuilder("n,t\r\n");
        for (int i = 0; i < 30_000; i++) {
            text.append(i).append(i % 3 == 0 ? ",mo\u0000ss" : ",fern").append("\r\n");
        }
        Path csv = Files.writeString(folder.resolve("label.csv"), text);
        String source = target("SQLite");
        assertThat(Ferry.run("load", csv, source).code()).isZero();
        Path set = folder.resolve("set");
        assertThat(Ferry.run("export", source, set, "--slice-rows", "1000").code())
                .isZero();
        String target = Servers.newPostgres();
        for (int i = 0; i < 5; i++) {
            Ferry load = Ferry.run("load", "--try", "--lanes", "4", set, target);
            assertThat(load.code()).isEqualTo(1);
            assertThat(load.out()).contains("10000 values would be refused").contains("line 2");
        }
    }

    /** Whatever the target would refuse is found by a try, by a person's names, and nothing is changed by it. */
    @ParameterizedTest
    @CsvSource({"MariaDB, false", "PostgreSQL, true", "SQLite, true", "H2, true"})
    void aTryFindsDefinitionsThatWouldBeRefused(String system, boolean taken) throws Exception {
        StringBuilder text = new StringBuilder("n");
        for (int i = 1; i < 700; i++) {
            text.append(",c").append(i);
        }
        Path file = Files.writeString(
                folder.resolve("wide.csv"), text + "\r\n1" + ",x".repeat(350) + ",".repeat(349) + "\r\n");
        String target = target(system);
        Databases.run(target, "CREATE TABLE kept (n INTEGER)");
        Ferry load = Ferry.run("load", "--try", file, target);
        assertThat(load.code()).as(load.out() + load.err()).isEqualTo(taken ? 0 : 1);
        if (!taken) {
            assertThat(load.out()).contains("wide: its definition would be refused: Row size too large");
        }
        assertThat(load.out()).doesNotContain("orderly_ferry_");
        assertThat(Ferry.run("look", target).out()).contains("1 table").doesNotContain("wide");
    }

    @Test
    void aTryFindsAKeyThatIsTooLong() throws Exception {
        String target = Servers.newPostgres();
        Databases.run(target, "CREATE TABLE far (a integer, b integer)");
        Path file = Files.writeString(folder.resolve("label.csv"), "n,t\r\n1,moss\r\n");
        Files.writeString(
                folder.resolve("label.csv-metadata.json"),
                """
                {"@context":"http://www.w3.org/ns/csvw","url":"label.csv","tableSchema":{"columns":[
                {"titles":"n","datatype":"int"},{"titles":"t","datatype":"string"}],
                "https://orderly-ferry.example/ns#foreignKeys":[],
                "https://orderly-ferry.example/ns#system":"PostgreSQL",
                "https://orderly-ferry.example/ns#checks":[{"https://orderly-ferry.example/ns#name":"c",
                "https://orderly-ferry.example/ns#expression":"n > 'moss'::text",
                "https://orderly-ferry.example/ns#system":"PostgreSQL"}]}}
                """);
        Ferry load = Ferry.run("load", "--try", file, target);
        assertThat(load.code()).as(load.out() + load.err()).isEqualTo(1);
        assertThat(load.out()).contains("label: its definition would be refused", "operator does not exist");
        assertThat(Databases.rows(target, "SELECT COUNT(*) FROM pg_tables WHERE schemaname = 'public'"))
                .containsExactly("1");
    }
}
