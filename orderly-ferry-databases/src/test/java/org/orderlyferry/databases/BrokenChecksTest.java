package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.integrity.Integrity;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.RejectFile;
import org.orderlyferry.work.TransferResult;

/** Records that break a target's checks stay behind with their reasons, and so does what refers to them. */
class BrokenChecksTest {

    private static final List<String> TABLES = List.of(
            "CREATE TABLE bed (id INT PRIMARY KEY, kind VARCHAR(20), plants INT, until_day DATE,"
                    + " CONSTRAINT some_plants CHECK (plants BETWEEN 1 AND 40),"
                    + " CHECK (kind IN ('herbs', 'moss') AND until_day >= '2031-01-01'))",
            "CREATE TABLE plant (id INT PRIMARY KEY, bed INT REFERENCES bed (id), CHECK (id > 0))");

    private static final Pattern NAMES = Pattern.compile("\\b(bed|plants?|id|kind|until_day|some_plants)\\b");

    @TempDir
    private Path folder;

    /** With names as they stand: H2 has capitals for those without quotes. */
    private static String sql(String system, String sql) {
        return system.equals("H2") ? NAMES.matcher(sql).replaceAll("\"$1\"") : sql;
    }

    private String target(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        Databases.run(url, TABLES.stream().map(t -> sql(system, t)).toArray(String[]::new));
        Files.createDirectories(folder.resolve("come"));
        Files.writeString(
                folder.resolve("come/bed.csv"),
                "id,kind,plants,until_day\n1,herbs,7,2031-04-09\n2,herbs,0,2031-04-09\n3,,,\n4,stones,3,2031-04-09\n"
                        + "5,moss,40,2030-12-31\n");
        Files.writeString(folder.resolve("come/plant.csv"), "id,bed\n10,1\n11,2\n12,3\n-1,1\n13,5\n");
        return url;
    }

    private TransferResult load(String url, LoadMode mode, Path file) throws Exception {
        Supplier<Place> again = () -> Places.open(url);
        try (Place source = Places.open(folder.resolve("come"));
                TargetPlace target = Places.openTarget(url);
                RejectFile rejects = new RejectFile(file);
                Place sound = Integrity.of(source, target, again)
                        .modes(LoadModes.all(mode))
                        .sound(rejects)) {
            return Load.from(sound).modes(LoadModes.all(mode)).rejects(rejects).into(target);
        }
    }

    static Stream<String> names() {
        return TestSystem.names();
    }

    @ParameterizedTest
    @MethodSource("names")
    void theyAreKeptWithTheirReasonsAndTheOthersAreIn(String system) throws Exception {
        for (LoadMode mode : new LoadMode[] {LoadMode.APPEND, LoadMode.MERGE}) {
            String url = target(system);
            Path file = folder.resolve(system + mode + ".csv");
            TransferResult result = load(url, mode, file);
            assertThat(Databases.rows(url, sql(system, "SELECT id FROM bed ORDER BY 1")))
                    .containsExactly("1", "3");
            assertThat(Databases.rows(url, sql(system, "SELECT id FROM plant ORDER BY 1")))
                    .containsExactly("10", "12");
            assertThat(result.rejected()).isEqualTo(6);
            assertThat(result.addsUp()).isTrue();
            assertThat(Files.readString(file))
                    .contains(",3,plants,0,", "breaks the target's check ", "some_plants")
                    .contains(",5,\"kind, until_day\",\"stones, 2031-04-09\",")
                    .contains("refers to a record of ");
        }
    }

    @ParameterizedTest
    @MethodSource("names")
    void whereATriggerMayMendThemTheyAreLeftToTheTarget(String system) throws Exception {
        String url = target(system);
        String[] trigger =
                switch (system) {
                    case "PostgreSQL" ->
                        new String[] {
                            "CREATE FUNCTION mend() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN NEW.plants := 1; NEW.kind :="
                                    + " ''moss''; NEW.until_day := ''2031-04-09''; RETURN NEW; END'",
                            "CREATE TRIGGER mends BEFORE INSERT ON bed FOR EACH ROW EXECUTE FUNCTION mend()"
                        };
                    case "MariaDB" ->
                        new String[] {
                            "CREATE TRIGGER mends BEFORE INSERT ON bed FOR EACH ROW SET NEW.plants = 1, NEW.kind = 'moss',"
                                    + " NEW.until_day = '2031-04-09'"
                        };
                    case "SQLite" -> new String[] {"CREATE TRIGGER mends BEFORE INSERT ON bed BEGIN SELECT 1; END"};
                    default ->
                        new String[] {
                            "CREATE TRIGGER mends BEFORE INSERT ON \"bed\" FOR EACH ROW CALL '"
                                    + Mending.class.getName() + "'"
                        };
                };
        Databases.run(url, trigger);
        Path file = folder.resolve("rejects.csv");
        if (system.equals("SQLite")) {
            // its triggers can't change what comes
            assertThatThrownBy(() -> load(url, LoadMode.APPEND, file)).isInstanceOf(FerryException.class);
            return;
        }
        load(url, LoadMode.APPEND, file);
        assertThat(Databases.rows(url, sql(system, "SELECT plants, kind FROM bed ORDER BY id")))
                .hasSize(5)
                .containsOnly("1 moss");
    }

    /** What H2 calls before a record comes. */
    public static final class Mending implements org.h2.api.Trigger {
        @Override
        public void fire(java.sql.Connection connection, Object[] old, Object[] record) {
            record[1] = "moss";
            record[2] = 1;
            record[3] = java.time.LocalDate.of(2031, 4, 9);
        }
    }
}
