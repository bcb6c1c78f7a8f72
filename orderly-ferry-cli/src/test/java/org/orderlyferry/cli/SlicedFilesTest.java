package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** Large files are loaded by several lanes, piece by piece, and several files as one table. */
class SlicedFilesTest {

    private static final int ROWS = 5_000;

    @TempDir
    Path folder;

    @BeforeEach
    void write() throws Exception {
        StringBuilder csv = new StringBuilder("id,note\n");
        StringBuilder json = new StringBuilder();
        for (int i = 1; i <= ROWS; i++) {
            csv.append(i).append(i % 3 == 0 ? ",\"two\nlines\"\n" : ",one line\n");
            json.append("{\"id\": ").append(i).append(", \"note\": \"}\\n{\"}\n");
        }
        Files.writeString(folder.resolve("loan.csv"), csv);
        Files.writeString(folder.resolve("loan.jsonl"), json);
    }

    private String load(String name, String url, Object... more) {
        Object[] arguments = new Object[7 + more.length];
        System.arraycopy(
                new Object[] {"load", folder.resolve(name), url, "--slice-rows", "300", "--lanes", "3"},
                0,
                arguments,
                0,
                7);
        System.arraycopy(more, 0, arguments, 7, more.length);
        Ferry ferry = Ferry.run(arguments);
        assertThat(ferry.code()).as(ferry.out() + ferry.err()).isZero();
        return ferry.out();
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void eachRecordIsThereOnce(String system) throws Exception {
        for (String name : new String[] {"loan.csv", "loan.jsonl"}) {
            String url = TestSystem.of(system).fresh(folder);
            assertThat(load(name, url)).contains("5,000 read = 5,000 written + 0 rejected");
            assertThat(Ferry.run("reconcile", folder.resolve(name), url).code()).isZero();
            String id = TestSystem.of(system).quote("id");
            assertThat(Databases.rows(
                            url,
                            "SELECT COUNT(*), SUM(" + id + "), MIN(" + id + "), MAX(" + id + ") FROM "
                                    + TestSystem.of(system).quote("loan")))
                    .containsExactly("5000 12502500 1 5000");
        }
    }

    @Test
    void largeRecordsAreCutByTheirBytes() throws Exception {
        String url = TestSystem.SQLITE.fresh(folder);
        assertThat(Ferry.run("load", folder.resolve("loan.csv"), url, "--slice-bytes", "20000")
                        .code())
                .isZero();
        assertThat(Ferry.run("reconcile", folder.resolve("loan.csv"), url).code())
                .isZero();
        Ferry none =
                Ferry.run("load", folder.resolve("loan.csv"), TestSystem.SQLITE.fresh(folder), "--slice-bytes", "0");
        assertThat(none.code()).isEqualTo(2);
        assertThat(none.err()).contains("--slice-bytes takes a number from 1 on");
    }

    @Test
    void numbersThatRecordsGetGoThroughAllPieces() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        load("loan.csv", url, "--number-by", "number");
        assertThat(Databases.rows(url, "SELECT COUNT(*) FROM \"loan\" WHERE \"number\" = \"id\""))
                .containsExactly("5000");
        // read twice, for what breaks keys
        String twice = TestSystem.H2.fresh(folder);
        load(
                "loan.csv",
                twice,
                "--number-by",
                "number",
                "--rejects",
                folder.resolve("none-" + System.nanoTime()).toString());
        assertThat(Databases.rows(twice, "SELECT COUNT(*) FROM \"loan\" WHERE \"number\" = \"id\""))
                .containsExactly("5000");
    }

    @Test
    void aFileIsWrittenInTheOrderOfTheOneThatWasRead() throws Exception {
        Path to = folder.resolve("to.csv");
        load("loan.csv", to.toString());
        assertThat(Files.readString(to).replace("\r\n", "\n")).isEqualTo(Files.readString(folder.resolve("loan.csv")));
    }

    @ParameterizedTest
    @ValueSource(ints = {2, 1_700, ROWS})
    void aRejectIsToldWithItsLineWhicheverPieceItIsIn(int bad) throws Exception {
        String[] records = Files.readString(folder.resolve("loan.csv")).strip().split("\n(?=\\d)");
        records[bad] = records[bad] + ",too many";
        Files.writeString(folder.resolve("loan.csv"), String.join("\n", records) + "\n");
        long line =
                String.join("\n", java.util.Arrays.copyOf(records, bad)).lines().count() + 1;
        Path rejects = folder.resolve("rejects.csv");
        Ferry ferry = Ferry.run(
                "load",
                folder.resolve("loan.csv"),
                TestSystem.H2.fresh(folder),
                "--slice-rows",
                "300",
                "--rejects",
                rejects);
        assertThat(ferry.out()).contains("5,000 read = 4,999 written + 1 rejected");
        assertThat(Files.readString(rejects)).contains("loan.csv," + line + ",");
    }

    @Test
    void severalFilesAreOneTable() throws Exception {
        Files.copy(folder.resolve("loan.csv"), folder.resolve("part-1.csv"));
        Files.writeString(folder.resolve("part-2.csv"), "note,id\nlast,5001\n");
        String url = TestSystem.H2.fresh(folder);
        assertThat(load("part-*.csv", url)).contains("5,001 read = 5,001 written");
        assertThat(Ferry.run("reconcile", folder.resolve("part-*.csv"), url).code())
                .isZero();
        assertThat(Ferry.run("look", folder.resolve("part-*.csv")).out())
                .contains("delimited text in 2 files, ", "part  5,001 records, 2 fields", "ferry look '" + folder);
    }
}
