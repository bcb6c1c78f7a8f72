package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.ServiceLoader;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.loading.DatabaseLoading;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.testkit.faults.LossyConnection;
import org.orderlyferry.testkit.servers.TestSystem;

/** A load that loses its connection at a commit, whichever it is, was never there or is whole, and says which. */
class LostCommitTest {

    private static final TableDefinition BED = TableDefinition.named("bed")
            .column("id", LogicalType.INTEGER)
            .column("name", LogicalType.varchar(20))
            .primaryKey("id")
            .build();
    private static final TableDefinition PLANT = TableDefinition.named("plant")
            .column("id", LogicalType.INTEGER)
            .column("name", LogicalType.varchar(20))
            .primaryKey("id")
            .build();

    private static final List<String> OLD = List.of("bed: 1 moss, 2 fern");

    @TempDir
    private static Path folder;

    private static int number;

    private static String target(String system) throws SQLException {
        String url = TestSystem.of(system).fresh(folder);
        String quote = system.equals("MariaDB") ? "`" : "\"";
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            for (String sql : List.of(
                    "CREATE TABLE 'bed' ('id' INTEGER NOT NULL PRIMARY KEY, 'name' VARCHAR(20))",
                    "INSERT INTO 'bed' VALUES (1, ''moss''), (2, ''fern'')")) {
                statement.execute(sql.replace("''", "#").replace("'", quote).replace("#", "'"));
            }
        }
        return url;
    }

    private static Session open(Dialect dialect, String url, Connection connection) {
        return new Session(url, dialect, connection, text -> text);
    }

    private static Connection connect(Dialect dialect, String url) {
        try {
            Connection connection = dialect.connect(PlaceAddress.of(url), OpenOptions.DEFAULT, true)
                    .orElseThrow();
            connection.setAutoCommit(false);
            return connection;
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    private static Dialect dialect(String url) throws SQLException {
        for (Dialect dialect : ServiceLoader.load(Dialect.class)) {
            var connection = dialect.connect(PlaceAddress.of(url), OpenOptions.DEFAULT, true);
            if (connection.isPresent()) {
                connection.get().close();
                return dialect;
            }
        }
        throw new IllegalArgumentException(url);
    }

    private static RecordBatch batch(String... values) {
        RecordBatch batch = new RecordBatch();
        batch.start(2, "bed", "test", false);
        for (int i = 0; i < values.length; i += 2) {
            batch.add(values[i].getBytes(StandardCharsets.UTF_8));
            batch.add(values[i + 1].getBytes(StandardCharsets.UTF_8));
            batch.endRow(i / 2 + 1);
        }
        return batch;
    }

    /** Loads a changed bed, and plants. */
    private static void load(Session session, Dialect dialect, String url, LoadMode mode, List<String> told) {
        session.work("loading", () -> {
            try (DatabaseLoading loading = DatabaseLoading.begin(
                    session,
                    () -> open(dialect, url, connect(dialect, url)),
                    new DatabaseLoading.Wanted(List.of(BED, PLANT), LoadModes.all(mode), false, false, ""),
                    () -> told.add("lasting"))) {
                for (TablePart part : List.of(TablePart.whole(0, BED.name()), TablePart.whole(1, PLANT.name()))) {
                    try (RecordWriter writer = loading.writer(part, () -> "a receipt")) {
                        writer.write(batch("2", "reed", "3", "heath"));
                        writer.finish();
                    }
                }
                loading.settle();
                loading.finish(Written.NOTHING);
                loading.findings().forEach(f -> told.add(f.text()));
            }
            return null;
        });
    }

    private static List<String> state(String url) {
        List<String> state = new ArrayList<>();
        try (Place place = Places.open(url)) {
            for (TableName table : place.tables()) {
                List<String> rows = new ArrayList<>();
                RecordBatch batch = new RecordBatch();
                try (RecordReader reader = place.read(Slice.whole(place.define(table)))) {
                    while (reader.read(batch)) {
                        for (int row = 0; row < batch.rows(); row++) {
                            rows.add(batch.text(row, 0) + " " + batch.text(row, 1));
                        }
                    }
                }
                rows.sort(null);
                state.add(table.name() + ": " + String.join(", ", rows));
            }
            place.leftBehind().forEach(l -> state.add(l.kind()));
        }
        return state;
    }

    @ParameterizedTest
    @CsvSource({
        "H2, REPLACE, true",
        "H2, REPLACE, false",
        "H2, MERGE, true",
        "H2, MERGE, false",
        // SQLite runs in this very process, and so its answer to a commit that was done can't be lost
        "SQLite, REPLACE, false",
        "SQLite, MERGE, false",
        "PostgreSQL, REPLACE, true",
        "PostgreSQL, REPLACE, false",
        "PostgreSQL, MERGE, true",
        "PostgreSQL, MERGE, false",
        "MariaDB, REPLACE, true",
        "MariaDB, REPLACE, false",
        "MariaDB, MERGE, true",
        "MariaDB, MERGE, false"
    })
    void whateverCommitIsLostTheTargetIsOldOrNewAndTheMessageSaysWhich(String system, LoadMode mode, boolean done)
            throws Exception {
        List<String> loaded = List.of(
                mode == LoadMode.MERGE ? "bed: 1 moss, 2 reed, 3 heath" : "bed: 2 reed, 3 heath",
                "plant: 2 reed, 3 heath");
        String url = target(system);
        Dialect dialect = dialect(url);
        int atEnd = 0;
        for (int fatal = 1; ; fatal++) {
            List<String> told = new ArrayList<>();
            LossyConnection lossy = new LossyConnection(connect(dialect, url), fatal, done);
            String failure = "";
            try {
                load(open(dialect, url, lossy.connection()), dialect, url, mode, told);
            } catch (FerryException e) {
                failure = e.getMessage();
            }
            List<String> state = state(url);
            if (!lossy.isLost()) {
                assertThat(failure).isEmpty();
                assertThat(state).isEqualTo(loaded);
                break;
            }
            String which = "commit " + fatal + ": " + failure + " " + told;
            if (failure.contains("all records are in")) {
                assertThat(told).as(which).containsExactly("lasting");
                assertThat(state).as(which).startsWith(loaded.toArray(String[]::new));
                atEnd++;
            } else if (failure.isEmpty()) {
                assertThat(told).as(which).contains("lasting").anyMatch(t -> t.contains("all records are in"));
                assertThat(state).as(which).isEqualTo(loaded);
                atEnd++;
            } else {
                assertThat(failure).contains("the connection is gone");
                assertThat(told).as(which).isEmpty();
                assertThat(state).as(which).isEqualTo(OLD);
                continue;
            }
            url = target(system);
        }
        assertThat(atEnd > 0)
                .isEqualTo(done && !system.equals("SQLite")
                        || List.of("H2", "MariaDB").contains(system));
    }
}
