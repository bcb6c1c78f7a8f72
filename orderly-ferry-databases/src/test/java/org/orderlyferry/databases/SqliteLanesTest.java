package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.TransferResult;

/** SQLite read by several connections, which see one state of it. */
class SqliteLanesTest {

    private static final TableName SHEET = TableName.of("sheet");

    @TempDir
    private Path folder;

    private Path database(String journal) throws SQLException {
        Path file = folder.resolve(journal + ".sqlite");
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file);
                Statement statement = connection.createStatement()) {
            statement.execute("PRAGMA journal_mode = " + journal);
            statement.execute("CREATE TABLE sheet (id INTEGER PRIMARY KEY, text TEXT, mass)");
            statement.execute(
                    "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 5000)"
                            + " INSERT INTO sheet SELECT i * 3, 'sheet ' || i, CASE WHEN i % 7 = 0 THEN 'odd' ELSE i END FROM n");
        }
        return file;
    }

    private static void insert(Path file) throws SQLException {
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file);
                Statement statement = connection.createStatement()) {
            statement.execute("PRAGMA busy_timeout = 0");
            statement.execute("INSERT INTO sheet VALUES (1, 'later', 1)");
        }
    }

    @Test
    void severalLanesReadTheSameAsOne() throws Exception {
        Path file = database("delete");
        try (Place source = Places.open(file)) {
            TransferResult result = Export.from(source).lanes(3).sliceRows(700).to(folder.resolve("set"));
            assertThat(result.findings()).isEmpty();
        }
        try (Place source = Places.open(file);
                Place set = Places.open(folder.resolve("set"))) {
            assertThat(Reconcile.between(source, set).lanes(3).compare().isEqual())
                    .isTrue();
            assertThat(set.count(SHEET)).isEqualTo(5_000);
        }
    }

    @Test
    void nobodyChangesWhatIsReadAndAllSeeIt() throws Exception {
        Path file = database("delete");
        try (Place source = Places.open(file)) {
            Companions others = source.companions(2);
            try {
                assertThat(others.places()).hasSize(2);
                // who reads keeps others from writing, as one reader does
                assertThatThrownBy(() -> insert(file)).isInstanceOf(SQLException.class);
                List<Integer> counts = new ArrayList<>();
                for (Place other : others.places()) {
                    counts.add(Contents.of(other.read(Slice.whole(other.define(SHEET))))
                            .size());
                }
                assertThat(counts).containsExactly(5_000, 5_000);
            } finally {
                others.places().forEach(Place::close);
            }
        }
        insert(file);
    }

    @Test
    void whereOthersGoOnWritingOneConnectionReadsAndThatIsTold() throws Exception {
        Path file = database("wal");
        try (Place source = Places.open(file)) {
            assertThat(source.count(SHEET)).isEqualTo(5_000);
            Companions others = source.companions(2);
            assertThat(others.places()).isEmpty();
            assertThat(others.findings().toString()).contains("WAL");
            insert(file);
            assertThat(source.count(SHEET)).isEqualTo(5_000);
        }
    }
}
