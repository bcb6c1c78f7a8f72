package org.orderlyferry.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.h2.jdbcx.JdbcDataSource;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.databases.place.DataSources;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.work.Export;

/** Each example does what it says. */
class ExamplesTest {

    @TempDir
    private static Path folder;

    @BeforeAll
    static void makeTheHerbarium() throws Exception {
        new Herbarium().specimens(200).readings(100).create(folder.resolve("herbarium.mv.db"));
    }

    @Test
    void oneCallEachWay() {
        assertThat(OneCallEachWay.move(
                        folder.resolve("herbarium.mv.db").toString(),
                        folder.resolve("herbarium.sqlite").toString(),
                        folder.resolve("set")))
                .isEqualTo("equal");
    }

    @Test
    void overADataSource() {
        JdbcDataSource target = new JdbcDataSource();
        target.setURL("jdbc:h2:" + folder.resolve("over"));
        long records = OverADataSource.move(folder.resolve("herbarium.mv.db").toString(), target);
        try (Place moved = DataSources.open(target, OpenOptions.DEFAULT)) {
            assertThat(records)
                    .isEqualTo(moved.tables().stream().mapToLong(moved::count).sum())
                    .isPositive();
        }
    }

    @Test
    void betweenServers() throws Exception {
        Path old = folder.resolve("common.mv.db");
        new Herbarium().specimens(200).readings(100).commonDates(true).create(old);
        String maria = Servers.newMaria();
        assertThat(BetweenServers.move(old.toString(), maria, folder.resolve("common")))
                .hasSize(13)
                .allMatch(line -> line.endsWith(": EQUAL"));
        assertThat(BetweenServers.move(folder.resolve("herbarium.mv.db").toString(), maria, folder.resolve("all")))
                .anyMatch(line -> line.startsWith("calibration.day: 3 values would be refused; the first: ")
                        && line.contains("'-4712-01-01' can't be held: MariaDB's dates go from the year 1 to 9999"));
    }

    @Test
    void aWholeCrossing() {
        assertThat(WholeCrossing.cross(
                        folder.resolve("herbarium.mv.db").toString(),
                        folder.resolve("crossed.sqlite").toString(),
                        folder.resolve("crossing.yaml")))
                .containsExactly(
                        "13 tables, allowed",
                        "BACKUP done",
                        "EXPORT done",
                        "LOAD done",
                        "PROOF done",
                        "proved",
                        "13 tables removed again");
    }

    @Test
    void withAListener() {
        assertThat(WithAListener.export(folder.resolve("herbarium.mv.db").toString(), folder.resolve("loans")))
                .startsWith("2 tables, 115 records", "loan: 25 records", "loan_item: 90 records");
    }

    private static List<String> commands() throws Exception {
        try (Stream<String> lines = Files.lines(Path.of("..", "README.md"))) {
            return lines.filter(l -> l.startsWith("java -cp ")).toList();
        }
    }

    @Test
    void theReadmeStartsAllOfThem() throws Exception {
        assertThat(commands())
                .hasSize(8)
                .allMatch(
                        c -> c.matches(
                                "java -cp 'orderly-ferry-dist/target/orderly-ferry-0.1.0/lib/\\*(:orderly-ferry-dist/target/cache/servers-0.1.0/\\*)?' org\\.orderlyferry\\.examples\\.\\w+"));
    }

    /** Starts examples as their commands do, one after the other in one process. */
    static final class Each {

        private Each() {}

        public static void main(String[] examples) throws Exception {
            for (String example : examples) {
                System.out.println("= " + example);
                Class.forName(example).getMethod("main", String[].class).invoke(null, (Object) new String[0]);
            }
        }
    }

    /** With the class path of the test, which has no folder of jars yet. */
    @Test
    void eachRunsAsItStandsInTheReadme() throws Exception {
        List<String> examples = commands().stream()
                .map(c -> c.substring(c.lastIndexOf(' ') + 1))
                .toList();
        Path log = folder.resolve("examples.log");
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                // what they leave for a person to look at
                "-Djava.io.tmpdir=" + folder,
                "-cp",
                System.getProperty("java.class.path"),
                Each.class.getName()));
        command.addAll(examples);
        Process process = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(log.toFile())
                .start();
        assertThat(process.waitFor(240, TimeUnit.SECONDS)).isTrue();
        String said = Files.readString(log);
        assertThat(process.exitValue()).as(said).isZero();
        String[] parts = said.split("(?m)^(?== org)");
        assertThat(parts).hasSameSizeAs(examples).allSatisfy(part -> assertThat(part)
                .contains("made for this example")
                .doesNotContain("Exception"));
    }

    @Test
    void recordByRecord() {
        Path set = folder.resolve("taxa");
        try (Place source = Places.open(folder.resolve("herbarium.mv.db").toString())) {
            Export.from(source).tables("taxon").to(set);
        }
        assertThat(RecordByRecord.taxaByLevel(set.toString()))
                .isEqualTo(Map.of("family", 6, "genus", 30, "species", 264));
    }

    @Test
    void aFileThatSomebodySentBecomesJsonLinesAndItsBadRecordIsKept() throws Exception {
        Path csv = folder.resolve("sent.csv");
        Files.writeString(csv, "id,code\n1,007\n2\n3,010\n");
        Path lines = folder.resolve("sent.jsonl");
        assertThat(FileToFile.convert(csv, lines)).anyMatch(t -> t.contains("lose the zeros of '007'"));
        assertThat(Files.readString(lines)).isEqualTo("{\"id\":1,\"code\":\"007\"}\n{\"id\":3,\"code\":\"010\"}\n");
        assertThat(Files.readString(folder.resolve("rejects.csv"))).contains(",3,");
    }
}
