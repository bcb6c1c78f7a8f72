package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.io.Compression;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.Plan;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Tables in slices, over several connections that see one moment. */
class SlicesTest {

    @TempDir
    private static Path folder;

    private static String postgres;
    private static String maria;

    @BeforeAll
    static void makeTables() throws Exception {
        postgres = Servers.newPostgres();
        maria = Servers.newMaria();
        for (String url : List.of(postgres, maria)) {
            String text = url.contains("maria") ? "VARCHAR(40)" : "TEXT";
            Databases.run(
                    url,
                    // nearly all keys at one end, with gaps
                    "CREATE TABLE skewed (id BIGINT PRIMARY KEY, label " + text + ")",
                    "CREATE TABLE pairs (a INTEGER, b VARCHAR(9), v INTEGER, PRIMARY KEY (a, b))",
                    "CREATE TABLE named (name VARCHAR(30) PRIMARY KEY, day DATE, hour TIMESTAMP(6) NULL)",
                    "CREATE TABLE loose (n INTEGER, label " + text + ")",
                    "CREATE TABLE empty_one (id INTEGER PRIMARY KEY)");
            try (Connection connection = DriverManager.getConnection(url)) {
                connection.setAutoCommit(false);
                insert(connection, "INSERT INTO skewed VALUES (?, ?)", 20_000, (s, i) -> {
                    s.setLong(1, i < 19_000 ? i : i * 1_000_000_000L);
                    s.setString(2, "label " + i);
                });
                insert(connection, "INSERT INTO pairs VALUES (?, ?, ?)", 9_000, (s, i) -> {
                    s.setInt(1, i % 3);
                    s.setString(2, "b" + i / 3);
                    s.setInt(3, i);
                });
                insert(connection, "INSERT INTO named VALUES (?, ?, ?)", 5_000, (s, i) -> {
                    s.setString(1, "it's \\ \"" + (char) ('a' + i % 26) + "é" + i);
                    s.setDate(
                            2,
                            java.sql.Date.valueOf(
                                    java.time.LocalDate.of(1990, 1, 1).plusDays(i / 2)));
                    s.setTimestamp(3, i % 7 == 0 ? null : new java.sql.Timestamp(i * 86_400_000L));
                });
                insert(connection, "INSERT INTO loose VALUES (?, ?)", 4_000, (s, i) -> {
                    // a third null, a third the same number
                    s.setObject(1, i % 3 == 0 ? null : i % 3 == 1 ? 417 : i, java.sql.Types.INTEGER);
                    s.setString(2, "x" + i);
                });
                connection.commit();
            }
        }
    }

    /** Gives a row's values. */
    private interface Filling {
        void fill(PreparedStatement statement, int number) throws SQLException;
    }

    private static void insert(Connection connection, String sql, int rows, Filling filling) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            for (int i = 0; i < rows; i++) {
                filling.fill(statement, i);
                statement.addBatch();
            }
            statement.executeBatch();
        }
    }

    private static long rows(Place place, Slice slice) {
        long rows = 0;
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = place.read(slice)) {
            while (reader.read(batch)) {
                rows += batch.rows();
            }
        }
        return rows;
    }

    private static List<Long> sizes(Place place, String table, String column, long rowsPerSlice) {
        TableDefinition definition = place.define(TableName.of(table));
        long rows = place.count(definition.name());
        Cut cut = new Cut(
                rowsPerSlice, column.isEmpty() ? java.util.Map.of() : java.util.Map.of(definition.name(), column));
        List<Long> sizes = place.cut(definition, rows, cut).stream()
                .map(s -> rows(place, s))
                .toList();
        assertThat(sizes.stream().mapToLong(Long::longValue).sum())
                .as("each record of %s is in one slice", table)
                .isEqualTo(rows);
        return sizes;
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void slicesAreOfOneSizeWhateverTheKeysAre(String system) {
        try (Place place = Places.open(system.equals("MariaDB") ? maria : postgres)) {
            assertThat(sizes(place, "skewed", "", 2_000)).hasSize(10).allMatch(n -> n == 2_000);
            assertThat(sizes(place, "pairs", "", 1_000)).hasSize(9).allMatch(n -> n == 1_000);
            assertThat(sizes(place, "named", "", 1_000)).hasSize(5).allMatch(n -> n == 1_000);
            assertThat(sizes(place, "named", "day", 1_000)).hasSize(5).allMatch(n -> n == 1_000);
            assertThat(sizes(place, "named", "hour", 1_000))
                    .hasSizeGreaterThan(4)
                    .allMatch(n -> n <= 1_000);
            assertThat(sizes(place, "loose", "", 1_000)).as("no key, no slices").hasSize(1);
            // nulls by themselves, and one value can't be parted
            assertThat(sizes(place, "loose", "n", 500)).contains(1_334L).hasSizeGreaterThan(3);
            assertThat(sizes(place, "empty_one", "", 10)).containsExactly(0L);
            assertThatThrownBy(() -> sizes(place, "loose", "nowhere", 10))
                    .isInstanceOf(UsageException.class)
                    .hasMessage("table loose has no column nowhere");
        }
    }

    /** Few records of a large text each are as much as many small ones. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void fewLargeRecordsAreCutAsWell(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        Databases.run(
                url,
                "CREATE TABLE note (id INTEGER PRIMARY KEY, label VARCHAR(9), body "
                        + (system.equals("MariaDB") ? "LONGTEXT" : "TEXT") + ")");
        Random random = new Random(7);
        try (Connection connection = DriverManager.getConnection(url)) {
            insert(connection, "INSERT INTO note VALUES (?, ?, ?)", 60, (s, i) -> {
                s.setInt(1, i);
                s.setString(2, "n" + i);
                // nothing that a server would pack
                s.setString(
                        3,
                        random.ints(100_000, 'A', 'z')
                                .collect(StringBuilder::new, StringBuilder::appendCodePoint, StringBuilder::append)
                                .toString());
            });
        }
        if (system.equals("MariaDB")) {
            Databases.run(url, "ANALYZE TABLE note");
        }
        Path set = folder.resolve("large-" + system);
        List<Plan> plans = new ArrayList<>();
        try (Place place = Places.open(url)) {
            TransferResult result = Export.from(place)
                    .lanes(2)
                    .sliceBytes(1_000_000)
                    .listener(new ProgressListener() {
                        @Override
                        public void plan(Plan plan) {
                            plans.add(plan);
                        }
                    })
                    .to(set);
            assertThat(result.rows()).isEqualTo(60);
        }
        assertThat(plans.get(0).tables().get(0).slices()).isBetween(5, 20);
        try (Place from = Places.open(set.toString());
                Place there = Places.open(url)) {
            assertThat(Reconcile.between(from, there).compare().isEqual()).isTrue();
        }
    }

    @ParameterizedTest
    @EnumSource(Compression.class)
    void aSetInSlicesIsOneSetAndLoadsOverSeveralLanes(Compression compression) throws Exception {
        Path set = folder.resolve("sliced-" + compression);
        List<Plan> plans = new ArrayList<>();
        try (Place place = Places.open(postgres)) {
            Export.from(place)
                    .lanes(3)
                    .sliceRows(1_500)
                    .cutBy("loose", "n")
                    .compression(compression)
                    .listener(new ProgressListener() {
                        @Override
                        public void plan(Plan plan) {
                            plans.add(plan);
                        }
                    })
                    .to(set);
        }
        assertThat(plans.get(0).connections()).isEqualTo(4);
        assertThat(plans.get(0).tables())
                .extracting(Object::toString)
                .contains("Table[table=skewed, rows=20000, slices=14, by=[id]]");
        try (Stream<Path> files = Files.list(set.resolve("data"))) {
            assertThat(files.map(f -> f.getFileName().toString()))
                    .contains("skewed-0001.csv" + ending(compression), "empty_one.csv" + ending(compression));
        }
        // each file is an entry of the table group, and those of one table share its schema
        JsonNode group =
                new ObjectMapper().readTree(set.resolve("definitions.json").toFile());
        long entries = 0;
        for (JsonNode table : group.path("tables")) {
            entries += table.path("tableSchema").asText().equals("definitions/skewed.json") ? 1 : 0;
        }
        assertThat(entries).isEqualTo(14);
        for (String target : List.of(
                Servers.newPostgres(),
                Servers.newMaria(),
                folder.resolve(compression + ".sqlite").toString(),
                folder.resolve(compression + ".mv.db").toString())) {
            try (Place from = Places.open(set.toString());
                    TargetPlace to = Places.openTarget(target)) {
                assertThat(Load.from(from).lanes(3).into(to).rows()).isEqualTo(38_000);
            }
            try (Place a = Places.open(set.toString());
                    Place b = Places.open(target)) {
                assertThat(Reconcile.between(a, b).compare().isEqual())
                        .as(target)
                        .isTrue();
            }
        }
    }

    private static String ending(Compression compression) {
        return switch (compression) {
            case NONE -> "";
            case GZIP -> ".gz";
            case ZSTD -> ".zst";
        };
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void allReadersSeeOneMomentWhileAnApplicationWrites(String system) throws Exception {
        String url = system.equals("MariaDB") ? Servers.newMaria() : Servers.newPostgres();
        Databases.run(
                url,
                "CREATE TABLE bed (id INTEGER PRIMARY KEY)",
                "CREATE TABLE plant (id INTEGER PRIMARY KEY, bed INTEGER NOT NULL, FOREIGN KEY (bed) REFERENCES bed (id))");
        AtomicBoolean enough = new AtomicBoolean();
        Thread application = new Thread(() -> {
            try (Connection connection = DriverManager.getConnection(url);
                    Statement statement = connection.createStatement()) {
                connection.setAutoCommit(false);
                for (int i = 0; !enough.get(); i++) {
                    statement.execute("INSERT INTO bed VALUES (" + i + ")");
                    statement.execute("INSERT INTO plant VALUES (" + i + ", " + i + ")");
                    connection.commit();
                }
            } catch (SQLException e) {
                throw new IllegalStateException(e);
            }
        });
        application.start();
        try {
            long before = count(url);
            while (count(url) < before + 500) {
                Thread.sleep(20);
            }
            Path set = folder.resolve("moment-" + system);
            TransferResult result;
            try (Place place = Places.open(url)) {
                result = Export.from(place)
                        .lanes(3)
                        .sliceRows(100)
                        .overwrite(true)
                        .to(set);
            }
            assertThat(result.findings()).isEmpty();
            long beds = result.tables().get(0).written();
            assertThat(beds).isGreaterThanOrEqualTo(500);
            assertThat(result.tables().get(1).written())
                    .as("a bed and its plant came in one transaction")
                    .isEqualTo(beds);
            try (Place from = Places.open(set.toString());
                    TargetPlace to = Places.openTarget(
                            folder.resolve("moment-" + system + ".sqlite").toString())) {
                assertThat(Load.from(from).into(to).rows())
                        .as("all references hold")
                        .isEqualTo(2 * beds);
            }
        } finally {
            enough.set(true);
            application.join();
        }
        assertThat(count(url)).isGreaterThan(500);
    }

    private static long count(String url) throws SQLException {
        return Long.parseLong(Databases.rows(url, "SELECT COUNT(*) FROM bed").get(0));
    }

    @Test
    void whereTheServerForbidsTheLaneBatchesTakeItsPlaceAndThatIsTold() throws Exception {
        Path set = folder.resolve("forbidden");
        try (Place place = Places.open(maria)) {
            Export.from(place).tables("skewed", "named").to(set);
        }
        String target = Servers.newMaria();
        Databases.run(target, "SET GLOBAL local_infile = 0");
        try (Place from = Places.open(set.toString());
                TargetPlace to = Places.openTarget(target)) {
            assertThat(Load.from(from).into(to).findings())
                    .extracting(Object::toString)
                    .anyMatch(f -> f.contains("the server forbids LOAD DATA LOCAL"));
        } finally {
            Databases.run(target, "SET GLOBAL local_infile = 1");
        }
        try (Place a = Places.open(set.toString());
                Place b = Places.open(target)) {
            assertThat(Reconcile.between(a, b).compare().isEqual()).isTrue();
        }
    }

    @Test
    void thePaceIsKept() throws Exception {
        Path set = folder.resolve("paced");
        long started = System.nanoTime();
        try (Place place = Places.open(postgres)) {
            Export.from(place).tables("skewed").pace(20_000, 0).to(set);
        }
        assertThat((System.nanoTime() - started) / 1e9)
                .as("20,000 rows at 20,000 a second")
                .isGreaterThan(0.9);
    }
}
