package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;

/** Whatever an application does to tables that hang together, a catch-up brings the target there, records that go along included. */
class GeneratedChangesTest extends CrossingCase {

    private static final int SEEDS = Integer.getInteger("ferry.definitions", 1);
    private static final int ROUNDS = 3;
    private static final int CHANGES = 40;

    private static final List<String> TABLES = List.of(
            "CREATE TABLE bed (id INT PRIMARY KEY, code INT NOT NULL UNIQUE, up INT REFERENCES bed (id) ON DELETE SET NULL)",
            "CREATE TABLE plant (id INT PRIMARY KEY, bed INT REFERENCES bed (id) ON DELETE CASCADE,"
                    + " parent INT REFERENCES plant (id) ON DELETE CASCADE, tag VARCHAR(9) UNIQUE)",
            "CREATE TABLE leaf (plant INT REFERENCES plant (id) ON DELETE CASCADE, no INT, note VARCHAR(9),"
                    + " PRIMARY KEY (plant, no))",
            "CREATE TABLE label (id INT PRIMARY KEY, plant INT, no INT, code INT REFERENCES bed (code),"
                    + " CONSTRAINT label_leaf FOREIGN KEY (plant, no) REFERENCES leaf (plant, no) ON DELETE SET NULL)");

    static Stream<Arguments> targetsAndSeeds() {
        long seed = Long.getLong("ferry.seed", 5) * 1_000;
        return TestSystem.names().flatMap(to -> IntStream.range(0, SEEDS).mapToObj(n -> Arguments.of(to, seed + n)));
    }

    /** A change that an application may try; the database refuses some. */
    private static List<String> change(Random random) {
        int id = 1 + random.nextInt(15);
        int other = 1 + random.nextInt(15);
        String some = random.nextInt(3) == 0 ? "NULL" : "" + other;
        return switch (random.nextInt(14)) {
            case 0, 1 -> List.of("INSERT INTO bed VALUES (" + id + ", " + (100 + other) + ", " + some + ")");
            case 2, 3, 4 ->
                List.of("INSERT INTO plant VALUES (" + id + ", " + other + ", " + some + ", 'p" + random.nextInt(20)
                        + "')");
            case 5 ->
                List.of("INSERT INTO leaf VALUES (" + id + ", " + random.nextInt(3) + ", 'n" + random.nextInt(9)
                        + "')");
            case 6 ->
                List.of("INSERT INTO label VALUES (" + id + ", " + other + ", " + random.nextInt(3) + ", "
                        + (random.nextBoolean() ? "NULL" : 100 + random.nextInt(15)) + ")");
            case 7 -> List.of("UPDATE bed SET up = " + some + " WHERE id = " + id);
            case 8 -> List.of("UPDATE plant SET bed = " + other + ", parent = " + some + " WHERE id = " + id);
            case 9 -> List.of("DELETE FROM bed WHERE id = " + id);
            case 10 -> List.of("DELETE FROM plant WHERE id = " + id);
            case 11 -> List.of("DELETE FROM label WHERE id = " + id);
            // what one record had, another gets
            case 12 ->
                List.of(
                        "UPDATE plant SET tag = NULL WHERE id = " + id,
                        "UPDATE plant SET tag = 'p" + random.nextInt(20) + "' WHERE id = " + other);
            default ->
                List.of(
                        "UPDATE bed SET code = -1 WHERE id = " + id,
                        "UPDATE bed SET code = " + (100 + id) + " WHERE id = " + other,
                        "UPDATE bed SET code = " + (100 + other) + " WHERE id = " + id);
        };
    }

    private static int changed(String url, Random random, int changes) throws SQLException {
        int done = 0;
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            connection.setAutoCommit(false);
            for (int i = 0; i < changes; i++) {
                try {
                    for (String sql : change(random)) {
                        statement.execute(sql);
                    }
                    connection.commit();
                    done++;
                } catch (SQLException e) {
                    connection.rollback();
                }
            }
        }
        return done;
    }

    @ParameterizedTest(name = "{0}, {1}")
    @MethodSource("targetsAndSeeds")
    void aCatchUpComesToTheSame(String system, long seed) throws Exception {
        Random random = new Random(seed);
        String source = Servers.newPostgres();
        String url = TestSystem.of(system).fresh(folder);
        run(source, TABLES.toArray(String[]::new));
        changed(source, random, 3 * CHANGES);
        Path file = Files.createTempDirectory(folder, "changes-").resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        edit(file, "follow-deletes: false", "follow-deletes: true");
        must(0, "run", file);
        for (int round = 0; round < ROUNDS; round++) {
            assertThat(changed(source, random, CHANGES)).isPositive();
            assertThat(must(0, "run", file, "--catch-up").out()).contains("equal");
            must(0, "reconcile", source, url);
        }
        must(0, "undo", file);
    }
}
