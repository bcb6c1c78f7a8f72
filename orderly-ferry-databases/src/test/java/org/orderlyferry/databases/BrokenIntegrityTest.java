package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.integrity.Integrity;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.testkit.folder.OneTry;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What is left out of a load that goes on without records which break keys and references: all of them, and no others. */
class BrokenIntegrityTest {

    /** A bed, and one that it lies in. */
    record Bed(int id, Integer code, Integer within) {}

    record Plant(int id, Integer bed) {}

    record Garden(List<Bed> own, List<Bed> beds, List<Plant> plants, boolean merged, String system) {}

    @Provide
    Arbitrary<Garden> gardens() {
        Arbitrary<Integer> id = Arbitraries.integers().between(1, 12);
        Arbitrary<Bed> bed =
                Combinators.combine(id, id.injectNull(0.4), id.injectNull(0.5)).as(Bed::new);
        Arbitrary<Plant> plant = Combinators.combine(id, id.injectNull(0.3)).as(Plant::new);
        Arbitrary<List<Bed>> own = Arbitraries.integers()
                .between(8, 20)
                .set()
                .ofMaxSize(4)
                .map(ids -> ids.stream().map(i -> new Bed(i, null, null)).toList());
        return Combinators.combine(
                        own,
                        bed.list().ofMaxSize(12),
                        plant.list().ofMaxSize(12),
                        Arbitraries.of(true, false),
                        Arbitraries.of("sqlite", "h2"))
                .as(Garden::new);
    }

    @Property(tries = 60)
    void thoseThatBreakSomethingAreLeftOutAndNoOthers(@ForAll("gardens") Garden garden) throws Exception {
        try (OneTry one = OneTry.begin()) {
            leavesOut(one.path(), garden);
        }
    }

    private static void leavesOut(Path folder, Garden garden) throws Exception {
        String url = garden.system().equals("h2")
                ? "jdbc:h2:" + folder.resolve("garden") + ";USER=sa"
                : "jdbc:sqlite:" + folder.resolve("garden.sqlite");
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE TABLE \"bed\" (\"id\" INT PRIMARY KEY, \"code\" INT UNIQUE, \"within\" INT"
                    + " REFERENCES \"bed\" (\"id\"))");
            statement.execute(
                    "CREATE TABLE \"plant\" (\"id\" INT PRIMARY KEY, \"bed\" INT REFERENCES \"bed\" (\"id\"))");
            for (Bed bed : garden.own()) {
                statement.execute("INSERT INTO \"bed\" VALUES (" + bed.id() + ", NULL, NULL)");
            }
        }
        Files.createDirectory(folder.resolve("come"));
        write(
                folder.resolve("come/bed.csv"),
                "id,code,within",
                garden.beds().stream()
                        .map(b -> b.id() + "," + shown(b.code()) + "," + shown(b.within()))
                        .toList());
        write(
                folder.resolve("come/plant.csv"),
                "id,bed",
                garden.plants().stream().map(p -> p.id() + "," + shown(p.bed())).toList());
        if (garden.beds().isEmpty() || garden.plants().isEmpty()) {
            // a file without records proposes texts
            return;
        }
        List<Bed> beds = soundBeds(garden);
        Set<Integer> there = garden.own().stream().map(Bed::id).collect(Collectors.toCollection(HashSet::new));
        beds.forEach(b -> there.add(b.id()));
        List<Plant> plants = garden.plants().stream()
                .filter(p -> once(garden.plants(), p.id()))
                .filter(p -> p.bed() == null || there.contains(p.bed()))
                .toList();

        AtomicInteger rejected = new AtomicInteger();
        Rejects rejects = why -> rejected.incrementAndGet();
        LoadModes modes = LoadModes.all(garden.merged() ? LoadMode.MERGE : LoadMode.APPEND);
        try (Place source = Places.open(folder.resolve("come").toString());
                TargetPlace target = Places.openTarget(url)) {
            Place sound = Integrity.of(source, target, () -> Places.open(url))
                    .modes(modes)
                    .sound(rejects);
            TransferResult result =
                    Load.from(sound).modes(modes).rejects(rejects).into(target);
            int gone = garden.beds().size() - beds.size() + garden.plants().size() - plants.size();
            assertThat(result.rejected()).isEqualTo(gone);
            assertThat(rejected).hasValue(gone);
            assertThat(result.rows()).isEqualTo(beds.size() + plants.size());
        }
        Set<String> wanted = new TreeSet<>();
        garden.own().stream()
                .filter(o -> beds.stream().noneMatch(b -> b.id() == o.id()))
                .forEach(b -> wanted.add(b.toString()));
        beds.forEach(b -> wanted.add(b.toString()));
        plants.forEach(p -> wanted.add(p.toString()));
        assertThat(read(url)).isEqualTo(wanted);
    }

    /** Several connections can be shown one state only before anything was read. */
    @Test
    void aSourceThatWasLookedThroughIsStillReadByAsManyConnections(@TempDir Path folder) throws Exception {
        Path target = folder.resolve("garden.sqlite");
        for (TestSystem system : new TestSystem[] {TestSystem.MARIADB, TestSystem.POSTGRESQL}) {
            String url = system.fresh(target.getParent());
            try (Connection connection = DriverManager.getConnection(url);
                    Statement statement = connection.createStatement()) {
                statement.execute("CREATE TABLE bed (id INT PRIMARY KEY)");
                statement.execute("INSERT INTO bed VALUES (1), (2)");
            }
            try (Place source = Places.open(url);
                    TargetPlace into = Places.openTarget(target);
                    Place sound = Integrity.of(source, into, () -> Places.open(target))
                            .lanes(3)
                            .sound(Rejects.UNHEARD)) {
                List<Place> more = sound.companions(2).places();
                assertThat(more).hasSize(2);
                for (Place companion : more) {
                    assertThat(companion.count(TableName.of("bed"))).isEqualTo(2);
                    companion.close();
                }
                assertThat(sound.companions(2).places()).hasSize(2);
            }
        }
    }

    private static String shown(Integer value) {
        return value == null ? "" : value.toString();
    }

    private static void write(Path file, String header, List<String> lines) throws IOException {
        List<String> all = new ArrayList<>(List.of(header));
        all.addAll(lines);
        Files.write(file, all);
    }

    private static boolean once(List<Plant> plants, int id) {
        return plants.stream().filter(p -> p.id() == id).count() == 1;
    }

    /** By the definition: again and again, until nothing more is left out. */
    private static List<Bed> soundBeds(Garden garden) {
        List<Integer> ids = garden.beds().stream().map(Bed::id).toList();
        List<Integer> codes =
                garden.beds().stream().map(Bed::code).filter(Objects::nonNull).toList();
        Set<Integer> own = garden.own().stream().map(Bed::id).collect(Collectors.toSet());
        List<Bed> sound = garden.beds().stream()
                .filter(b -> Collections.frequency(ids, b.id()) == 1)
                .filter(b -> garden.merged() || !own.contains(b.id()))
                .filter(b -> b.code() == null || Collections.frequency(codes, b.code()) == 1)
                .toList();
        int before;
        do {
            before = sound.size();
            Set<Integer> there = new HashSet<>(own);
            sound.forEach(b -> there.add(b.id()));
            sound = sound.stream()
                    .filter(b -> b.within() == null || there.contains(b.within()))
                    .toList();
        } while (sound.size() < before);
        return sound;
    }

    private static Set<String> read(String url) throws Exception {
        Set<String> all = new TreeSet<>();
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            try (ResultSet row = statement.executeQuery("SELECT \"id\", \"code\", \"within\" FROM \"bed\"")) {
                while (row.next()) {
                    all.add(new Bed(row.getInt(1), number(row, 2), number(row, 3)).toString());
                }
            }
            try (ResultSet row = statement.executeQuery("SELECT \"id\", \"bed\" FROM \"plant\"")) {
                while (row.next()) {
                    all.add(new Plant(row.getInt(1), number(row, 2)).toString());
                }
            }
        }
        return all;
    }

    private static Integer number(ResultSet row, int column) throws Exception {
        int value = row.getInt(column);
        return row.wasNull() ? null : value;
    }
}
