package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.json.JsonMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is said of many tables in the same words is said once, of all of them, and nothing is missing from it. */
class NotesTest {

    private static final String SAID = ": has no definitions; its types and key were proposed from its values";

    @TempDir
    private Path folder;

    private Path files;

    @BeforeEach
    void makeAFolder() throws Exception {
        files = Files.createDirectory(folder.resolve("sheets"));
    }

    private void tables(int count) throws Exception {
        for (int i = 0; i < count; i++) {
            Files.writeString(files.resolve("sheet" + (100 + i) + ".csv"), "id,height\n1,12.5\n2,7.25\n");
        }
    }

    private Ferry load(Object... more) {
        Object[] all = new Object[3 + more.length];
        all[0] = "load";
        all[1] = files;
        all[2] = folder.resolve("h.sqlite");
        System.arraycopy(more, 0, all, 3, more.length);
        return Ferry.run(all);
    }

    private static List<String> lines(Ferry ferry) {
        return Arrays.asList(ferry.out().split("\n"));
    }

    @Test
    void whatIsTrueOfManyIsSaidOnceWithAllTheirNames() throws Exception {
        tables(5);
        List<String> lines = lines(load());
        assertThat(lines).contains("To be known (10)");
        assertThat(lines).filteredOn(l -> l.contains(SAID)).hasSize(1).allMatch(l -> l.startsWith("  sheet100"));
        assertThat(lines)
                .contains(
                        "    the same of 4 more: sheet101, sheet102, sheet103, sheet104",
                        "    the same of 4 more: sheet101.height, sheet102.height, sheet103.height, sheet104.height");
    }

    @Test
    void twoStandSideBySide() throws Exception {
        tables(2);
        List<String> lines = lines(load());
        assertThat(lines).filteredOn(l -> l.contains(SAID)).hasSize(2);
        assertThat(lines).noneMatch(l -> l.contains("the same of"));
    }

    @Test
    void whatIsSaidOnceInOtherWordsIsNotAmongThem() throws Exception {
        tables(4);
        Files.writeString(files.resolve("wide.csv"), "id,height\n1,12.123456\n");
        List<String> lines = lines(load());
        assertThat(lines).anyMatch(l -> l.startsWith("  wide.height: its numbers (DECIMAL(18,6)) become text"));
        assertThat(lines).contains("    the same of 3 more: sheet101.height, sheet102.height, sheet103.height");
    }

    @Test
    void whoWantsThousandsOfNamesAsksAsAMachine() throws Exception {
        tables(60);
        String shown = IntStream.range(1, 51).mapToObj(i -> "sheet" + (100 + i)).collect(Collectors.joining(", "));
        assertThat(lines(load())).contains("    the same of 59 more: " + shown + " … and 9 others; --json names each");
        Ferry json = load("--onto", "replace", "--json");
        assertThat(new JsonMapper().readTree(json.out()).findValuesAsText("text"))
                .filteredOn(t -> t.startsWith("has no definitions"))
                .hasSize(60);
    }

    /** An expression can be of any length; what a person reads can't. */
    @Test
    void aLongOneIsShortened() throws Exception {
        Path script = Files.writeString(
                folder.resolve("garden.sql"),
                "CREATE TABLE bed (id int, CHECK (soil(id, '" + "🌱 moss, ".repeat(5_000) + "')));\n");
        Object[] load = {"load", script, folder.resolve("a.sqlite"), "--setting", "dialect=postgresql"};
        Ferry shown = Ferry.run(load);
        assertThat(shown.out()).contains("🌱 moss, ").contains("characters more; --json has all of it");
        assertThat(shown.out().length()).isLessThan(3_000);
        Ferry json = Ferry.run("load", script, folder.resolve("b.sqlite"), "--setting", "dialect=postgresql", "--json");
        assertThat(json.out().length()).isGreaterThan(45_000);
    }

    /** What is told of a file says nothing of a database, and isn't passed over. */
    @Test
    void aFilesFormIsOfNoUseForADatabase() throws Exception {
        tables(1);
        load();
        for (String option : List.of(
                "--delimiter=;", "--setting=dialect=oracle", "--definitions=a.json", "--key=id", "--tight-types")) {
            Ferry look = Ferry.run("look", folder.resolve("h.sqlite"), option);
            assertThat(look.code()).as(look.out()).isEqualTo(2);
            assertThat(look.err()).contains("what is told about a file (").contains("h.sqlite, which is a database");
        }
        assertThat(Ferry.run("load", folder.resolve("h.sqlite"), folder.resolve("i.sqlite"), "--encoding=UTF-8")
                        .code())
                .isEqualTo(2);
        assertThat(folder.resolve("i.sqlite")).doesNotExist();
        assertThat(Ferry.run("load", files, "jdbc:sqlite:" + folder.resolve("k.sqlite"), "--encoding=UTF-8")
                        .code())
                .isZero();
    }

    /** A decision that would be passed over is refused, with what stands against it. */
    @Test
    void whatIsDecidedOfDefinitionsThatAreThereIsRefused() throws Exception {
        Path file = Files.writeString(folder.resolve("bed.csv"), "id,n\n1,a\n2,b\n");
        Path to = folder.resolve("bed.csv-metadata.json");
        assertThat(Ferry.run("look", file, "--key", "n", "--write-definitions", to)
                        .code())
                .isZero();
        for (String option : List.of("--key=id", "--tight-types")) {
            Ferry load = Ferry.run("load", file, folder.resolve("l.sqlite"), option);
            assertThat(load.code()).isEqualTo(2);
            assertThat(load.err()).contains("bed.csv, which has some: bed.csv-metadata.json, which lies beside it");
        }
        assertThat(folder.resolve("l.sqlite")).doesNotExist();
    }

    @Test
    void definitionsThatAreToBeWrittenAreThoseOfOneTable() throws Exception {
        Path script =
                Files.writeString(folder.resolve("b.sql"), "CREATE TABLE bed (id INT);\nCREATE TABLE pot (id INT);\n");
        Path to = folder.resolve("b.json");
        Ferry several = Ferry.run("look", script, "--setting", "dialect=sqlite", "--write-definitions", to);
        assertThat(several.code()).isEqualTo(2);
        assertThat(several.err()).contains("has 2 tables: name one");
        tables(1);
        load();
        Ferry database = Ferry.run("look", folder.resolve("h.sqlite"), "--write-definitions", to);
        assertThat(database.code()).isEqualTo(2);
        assertThat(to).doesNotExist();
        Ferry one = Ferry.run("look", script, "bed", "--setting", "dialect=sqlite", "--write-definitions", to);
        assertThat(one.code()).as(one.err()).isZero();
        assertThat(to).exists();
    }
}
