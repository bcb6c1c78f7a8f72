package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.testkit.herbarium.Herbarium;

/** The command line on the demo's data: what comes out, what goes to standard error, and the exit code. */
class CommandLineTest {

    @TempDir
    private static Path folder;

    private static Path old;
    private static Path set;

    @BeforeAll
    static void makeTheHerbarium() throws Exception {
        old = folder.resolve("old.mv.db");
        new Herbarium().specimens(300).readings(2_000).create(old);
        set = folder.resolve("set");
        assertThat(Ferry.run("export", old, set).code()).isZero();
    }

    private static JsonNode json(Ferry ferry) throws Exception {
        assertThat(ferry.err()).isEmpty();
        return new ObjectMapper().readTree(ferry.out());
    }

    static Stream<String> commands() {
        String help = Ferry.run("--help").out();
        return Pattern.compile("^  ([a-z]+)  ", Pattern.MULTILINE)
                .matcher(help.substring(help.indexOf("Commands:")))
                .results()
                .map(r -> r.group(1))
                .toList()
                .stream();
    }

    @Test
    void thereAreCommands() {
        assertThat(commands())
                .contains("look", "export", "convert", "load", "reconcile")
                .hasSizeLessThan(13);
    }

    @ParameterizedTest
    @MethodSource("commands")
    void eachCommandHasHelpWithAnExample(String command) {
        Ferry help = Ferry.run(command, "--help");
        assertThat(help.code()).isZero();
        assertThat(help.out()).contains("Usage: ferry " + command, "Example: ferry " + command);
    }

    @Test
    void lookShowsAllTablesOfADatabaseAndOfASet() throws Exception {
        Ferry database = Ferry.run("look", old);
        assertThat(database.out())
                .contains("chamber_reading   2,000", "specimen, number", "itself", "13 tables")
                .contains("view specimen_overview");
        JsonNode tables = json(Ferry.run("look", set, "--json")).get("tables");
        assertThat(tables).hasSize(13);
        assertThat(tables.findValuesAsText("table")).contains("Exchange Partner", "accession_queue");
    }

    @Test
    void lookShowsOneTableWhole() throws Exception {
        Ferry shown = Ferry.run("look", set, "specimen");
        assertThat(shown.out())
                .contains("barcode", "CHARACTER(9)", "'0.00'", "identity, next 301", "unique")
                .contains("(taxon) → taxon (id)  specimen_taxon", "determination (specimen) → (id)")
                .contains("(gathered descending, collector)  specimen_gathered", "QM0000001", "00001");
        assertThat(Ferry.run("look", old, "SPECIMEN", "--samples", "0").out()).contains("300 rows");
        JsonNode table = json(Ferry.run("look", old, "loan_item", "--json"));
        assertThat(table.get("primaryKey")).hasSize(2);
        assertThat(table.get("samples").get(0)).hasSize(3);
    }

    @Test
    void lookShowsASingleFileAndItsHeaderIsNoRecord() throws Exception {
        Path file = folder.resolve("mosses.csv");
        Files.writeString(file, "code;name\n00417;=moss\n00418;\n");
        Ferry shown = Ferry.run("look", file, "--delimiter", ";");
        assertThat(shown.out()).contains("mosses  2 records, 2 fields", "code", "name", "00417", "=moss");
        assertThat(json(Ferry.run("look", file, "--delimiter", ";", "--json"))
                        .get("rows")
                        .asInt())
                .isEqualTo(2);
    }

    @Test
    void aTableThatIsNotThereIsToldOfWithTheNearestName() {
        assertThat(Ferry.run("look", old, "specimn"))
                .isEqualTo(new Ferry(
                        2, "", "ferry: there is no table specimn in " + old + "; the nearest name is specimen\n"));
        Ferry export = Ferry.run("export", old, folder.resolve("none"), "loan*", "taxn");
        assertThat(export.code()).isEqualTo(2);
        assertThat(export.err()).contains("the nearest name is taxon");
        assertThat(folder.resolve("none")).doesNotExist();
    }

    @Test
    void someTablesAndAQueryAreExportedInAnotherDialect() throws Exception {
        Path some = folder.resolve("some");
        Ferry export = Ferry.run(
                "export",
                old,
                some,
                "loan*",
                "--query",
                "rich=SELECT \"id\", \"insured_value\" * 2 AS \"twice\", \"remarks\" FROM \"specimen\" WHERE \"id\" < 4",
                "--delimiter",
                "\\t",
                "--line-terminator",
                "lf",
                "--encoding",
                "utf-16",
                "--header",
                "false",
                "--null",
                "\\N",
                "--json");
        JsonNode result = json(export);
        assertThat(result.get("tables").findValuesAsText("table")).containsExactly("loan", "loan_item", "rich");
        assertThat(result.get("rows").asInt()).isGreaterThan(30);
        String rich = Files.readString(some.resolve("data/rich.csv"), java.nio.charset.StandardCharsets.UTF_16);
        assertThat(rich).startsWith("1\t").contains("\n2\t");
        Path target = folder.resolve("some.sqlite");
        Ferry load = Ferry.run("load", some, target);
        assertThat(load.code()).as(load.err()).isZero();
        assertThat(load.out())
                .contains("foreign key loan_item.loan_item_specimen: it refers to specimen, which is neither");
        assertThat(Ferry.run("reconcile", some, target).code()).isZero();
    }

    @Test
    void aSetIsKeptUnlessOverwriteIsGiven() {
        Path kept = folder.resolve("kept");
        assertThat(Ferry.run("export", old, kept, "loan").code()).isZero();
        Ferry again = Ferry.run("export", old, kept, "taxon");
        assertThat(again.code()).isEqualTo(2);
        assertThat(again.err()).contains("it is kept unless --overwrite is given");
        assertThat(Ferry.run("export", old, kept, "taxon", "--overwrite").code())
                .isZero();
        assertThat(Ferry.run("look", kept).out()).contains("taxon").doesNotContain("loan");
    }

    @Test
    void aSetIsntMadeOfWhatStandsForStandardOutputElsewhere() {
        for (String command : new String[] {"convert", "export"}) {
            Ferry ferry = Ferry.run(command, old, "-");
            assertThat(ferry.code()).isEqualTo(2);
            assertThat(ferry.err()).contains("isn't written to standard output");
        }
        assertThat(Path.of("-")).doesNotExist();
    }

    @Test
    void aTableThatIsThereAlreadyIsNotTouched() throws Exception {
        Path target = folder.resolve("taken.sqlite");
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + target);
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE TABLE loan (id INTEGER)");
            statement.execute("INSERT INTO loan VALUES (1), (2)");
        }
        Ferry load = Ferry.run("load", set, target);
        assertThat(load.code()).isEqualTo(2);
        assertThat(load.err())
                .isEqualTo("ferry: the target " + target
                        + " has this table already: loan (2 records); nothing was changed\n");
        assertThat(Ferry.run("look", target).out()).contains("1 table ");
    }

    @Test
    void reconcileNamesTheColumnsThatDifferAndTheTablesThatAreMissing() throws Exception {
        Path target = folder.resolve("changed.sqlite");
        Ferry.run("load", set, target);
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + target);
                Statement statement = connection.createStatement()) {
            statement.execute("UPDATE specimen SET remarks = 'changed', insured_value = 1 WHERE id = 17");
            statement.execute("DELETE FROM loan_item WHERE rowid = 1");
            statement.execute("DROP TABLE label_draft");
            statement.execute("CREATE TABLE visitor (id INTEGER)");
            statement.execute("ALTER TABLE taxon ADD COLUMN note TEXT");
            // two records change places: each column still has the same values
            statement.execute("UPDATE locality SET id = -1 WHERE id = 1");
            statement.execute("UPDATE locality SET id = 1 WHERE id = 2");
            statement.execute("UPDATE locality SET id = 2 WHERE id = -1");
        }
        Ferry digests = Ferry.run("reconcile", old, target);
        assertThat(digests.code()).isEqualTo(1);
        assertThat(digests.out().replaceAll(" +", " "))
                .contains("specimen 300 300 different insured_value, remarks")
                .contains("label_draft 78 – missing in target")
                .contains("visitor – 0 missing in source")
                .contains("taxon 300 300 different note (only at the target)")
                .contains("locality 120 120 different none alone: the same values stand in other records")
                .contains("chamber_reading 2,000 2,000 equal");
        Ferry counts = Ferry.run("reconcile", old, target, "--depth", "counts", "specimen", "loan_item");
        assertThat(counts.code()).isEqualTo(1);
        assertThat(counts.out().replaceAll(" +", " "))
                .contains("specimen 300 300 equal")
                .contains("1 of 2 tables equal");
        JsonNode tables =
                json(Ferry.run("reconcile", old, target, "specimen", "--json")).get("tables");
        assertThat(tables.get(0).get("differingColumns")).hasSize(2);
    }

    @Test
    void aDamagedSetIsRefusedBeforeAnythingIsWritten() throws Exception {
        Path damaged = folder.resolve("damaged");
        Ferry.run("export", old, damaged, "loan");
        Path file = damaged.resolve("data/loan.csv");
        Files.writeString(file, Files.readString(file).replace("1,", "9,"));
        Path target = folder.resolve("damaged.mv.db");
        Ferry load = Ferry.run("load", damaged, target);
        assertThat(load.code()).isEqualTo(3);
        assertThat(load.err()).contains("the file data/loan.csv was changed after the set was made");
        assertThat(target).doesNotExist();
    }

    @Test
    void aFileWithoutDefinitionsComesWithProposedOnesAndThatIsSaid() throws Exception {
        Path file = folder.resolve("bare.csv");
        Files.writeString(file, "a,b\n1,2\n");
        Ferry load = Ferry.run("load", file, folder.resolve("proposed.sqlite"));
        assertThat(load.code()).as(load.err()).isZero();
        assertThat(load.out()).contains("bare: has no definitions; its types and key were proposed from its values");
        Path definitions = folder.resolve("other.json");
        Files.writeString(
                definitions,
                "{\"columns\":[{\"titles\":\"b\",\"datatype\":\"int\"},{\"titles\":\"a\"}],\"primaryKey\":\"b\"}");
        assertThat(Ferry.run("load", file, folder.resolve("bare.sqlite"), "--definitions", definitions)
                        .code())
                .isZero();
        assertThat(Ferry.run("look", folder.resolve("bare.sqlite"), "bare").out())
                .contains("1 row");
    }

    @Test
    void placesThatCannotBeReachedAreToldOf() {
        assertThat(Ferry.run("look", "jdbc:h2:tcp://127.0.0.1:1/./x").err()).contains("the server can't be reached");
        assertThat(Ferry.run("look", "jdbc:h2:tcp://127.0.0.1:1/./x").code()).isEqualTo(3);
        assertThat(Ferry.run("look", "jdbc:h2:" + folder.resolve("nowhere")).err())
                .contains("can't be opened: there is no such database");
        assertThat(Ferry.run("look", folder.resolve("nowhere.sqlite")).err())
                .contains("there is no such file or folder");
        Ferry driver = Ferry.run("look", "jdbc:mossdb://example/x");
        assertThat(driver.code()).isEqualTo(2);
        assertThat(driver.err()).contains("there is no driver for jdbc:mossdb://example/x");
    }

    @Test
    void aSecretIsNeverShown() throws Exception {
        Path guarded = folder.resolve("guarded");
        try (Connection connection = DriverManager.getConnection("jdbc:h2:" + guarded, "keeper", "m0ss-and-fern");
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE TABLE \"t\" (\"a\" INTEGER)");
        }
        Files.writeString(folder.resolve("secret.txt"), "m0ss-and-fern\n");
        String url = "jdbc:h2:" + guarded + ";USER=keeper;PASSWORD=";
        Ferry wrong = Ferry.run("look", url + "wr0ng");
        assertThat(wrong.code()).isEqualTo(3);
        assertThat(wrong.err())
                .contains("PASSWORD=***", "wrong user name or password")
                .doesNotContain("wr0ng");
        Ferry right = Ferry.run("look", url + "${file:" + folder.resolve("secret.txt") + "}");
        assertThat(right.code()).as(right.err()).isZero();
        assertThat(right.out()).contains("1 table").doesNotContain("m0ss");
        assertThat(Ferry.run("look", url + "${env:FERRY_NO_SUCH_SECRET}").err())
                .contains("the environment has no variable FERRY_NO_SUCH_SECRET");
        Path out = folder.resolve("guarded-set");
        assertThat(Ferry.run("export", url + "m0ss-and-fern", out).out()).doesNotContain("m0ss");
        try (Stream<Path> files = Files.walk(out)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                assertThat(Files.readString(file)).doesNotContain("m0ss");
            }
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "loook x",
                "look",
                "export a",
                "look x --quote-char ab",
                "look x --encoding mossy",
                "reconcile a b --depth bottom",
                "export a b --delimiter \" --quote-char \""
            })
    void wrongUsageIsCodeTwoWithAHint(String arguments) {
        Ferry ferry =
                Ferry.run(Terminal.NONE, new StopSignal(), arguments.isEmpty() ? new String[0] : arguments.split(" "));
        assertThat(ferry.code()).as(ferry.err()).isEqualTo(2);
        assertThat(ferry.err()).startsWith("ferry: ").doesNotContain("Exception");
        assertThat(ferry.out()).isEmpty();
    }

    @Test
    void coloursAndBarsAreOnlyForATerminal() {
        Ferry piped = Ferry.run("export", old, folder.resolve("piped"));
        assertThat(piped.out() + piped.err()).doesNotContain("\u001b");
        Ferry seen = Ferry.run(
                new Terminal(true, true, Colour.AUTO, 100),
                new StopSignal(),
                "export",
                old.toString(),
                folder.resolve("seen").toString());
        assertThat(seen.out()).contains("\u001b[1mExported");
        assertThat(seen.err()).contains("rows/s").endsWith("\r\u001b[K");
    }

    @Test
    void workThatIsStoppedLeavesNothing() throws Exception {
        StopSignal stop = new StopSignal();
        stop.stop();
        Path target = folder.resolve("stopped");
        Ferry export = Ferry.run(Terminal.NONE, stop, "export", old.toString(), target.toString());
        assertThat(export.code()).isEqualTo(3);
        assertThat(export.err()).isEqualTo("ferry: stopped; nothing half-made is left\n");
        for (String file : new String[] {"stopped.mv.db", "stopped.sqlite"}) {
            Ferry load = Ferry.run(
                    Terminal.NONE,
                    stop,
                    "load",
                    set.toString(),
                    folder.resolve(file).toString());
            assertThat(load.code()).isEqualTo(3);
        }
        try (Stream<Path> all = Files.list(folder)) {
            assertThat(all.map(p -> p.getFileName().toString())).noneMatch(n -> n.contains("stopped"));
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 40, 54, 55, 300})
    void aTerminalOfAnyWidthIsGoodEnough(int columns) {
        Terminal terminal = new Terminal(true, true, Colour.NEVER, columns);
        Ferry help = Ferry.run(terminal, new StopSignal(), "load", "--help");
        assertThat(help.code()).isZero();
        assertThat(help.out()).contains("--onto");
        assertThat(Ferry.run(terminal, new StopSignal(), "look", set.toString()).code())
                .isZero();
    }
}
