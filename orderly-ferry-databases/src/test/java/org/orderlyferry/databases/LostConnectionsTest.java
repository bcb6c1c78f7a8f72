package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.LocalPostgres;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/** Connections that end in the middle of a slice, and a server that goes. */
class LostConnectionsTest {

    @TempDir
    private static Path folder;

    /** Ends one of the export's or load's connections, once, in the middle of a slice. */
    private static ProgressListener cutOnce(String url, List<String> told) {
        return new ProgressListener() {
            private int batches;

            @Override
            public void moved(TableName table, long rows, long bytes) {
                if (++batches == 3) {
                    try {
                        if (url.contains("postgresql")) {
                            Databases.run(
                                    url,
                                    "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname ="
                                            + " current_database() AND pid <> pg_backend_pid() AND query LIKE 'COPY%'"
                                            + " AND state = 'active' LIMIT 1");
                        } else {
                            killOne(url);
                        }
                    } catch (SQLException e) {
                        throw new IllegalStateException(e);
                    }
                }
            }

            @Override
            public void tryingAgain(TableName table, String why, long pauseMillis) {
                told.add(table + ": " + why);
            }
        };
    }

    private static void killOne(String url) throws SQLException {
        String id = Databases.rows(
                        url,
                        "SELECT MAX(ID) FROM information_schema.PROCESSLIST WHERE DB = DATABASE() AND ID <>"
                                + " CONNECTION_ID()")
                .get(0);
        Databases.run(url, "KILL " + id);
    }

    @Test
    void aSliceWhoseConnectionIsLostIsReadAgainAndNothingIsThereTwice() throws Exception {
        List<String> told = new ArrayList<>();
        String url = Servers.newPostgres();
        Databases.run(
                url,
                "CREATE TABLE big (id BIGINT PRIMARY KEY, label TEXT)",
                "INSERT INTO big SELECT i, repeat('moss and fern ' || i, 50) FROM generate_series(1, 60000) i");
        Path set = folder.resolve("cut");
        try (Place place = Places.open(url)) {
            Export.from(place)
                    .lanes(2)
                    .sliceRows(20_000)
                    .listener(cutOnce(url, told))
                    .to(set);
        }
        assertThat(told).hasSize(1).first().asString().contains("the server ended the connection");
        try (Place a = Places.open(url);
                Place b = Places.open(set.toString())) {
            assertThat(Reconcile.between(a, b).compare().isEqual()).isTrue();
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void aSliceWhoseConnectionIsLostIsLoadedAgainAndNothingIsThereTwice(String system) throws Exception {
        Path set = folder.resolve("again-" + system);
        String url = Servers.newPostgres();
        Databases.run(
                url,
                "CREATE TABLE big (id BIGINT PRIMARY KEY, label TEXT)",
                "INSERT INTO big SELECT i, repeat('moss and fern ' || i, 50) FROM generate_series(1, 60000) i");
        try (Place place = Places.open(url)) {
            Export.from(place).sliceRows(20_000).to(set);
        }
        String target = system.equals("MariaDB") ? Servers.newMaria() : Servers.newPostgres();
        List<String> told = new ArrayList<>();
        try (Place from = Places.open(set.toString());
                TargetPlace to = Places.openTarget(target)) {
            Load.from(from).lanes(2).listener(cutOnce(target, told)).into(to);
        }
        assertThat(told).isNotEmpty();
        try (Place a = Places.open(url);
                Place b = Places.open(target)) {
            assertThat(Reconcile.between(a, b).compare().isEqual()).isTrue();
        }
    }

    /** The load's connections but for the first, the youngest last. */
    private static List<String> lanes(String url) {
        try {
            List<String> all = Databases.rows(
                    url,
                    url.contains("postgresql")
                            ? "SELECT pid FROM pg_stat_activity WHERE datname = current_database() AND pid <>"
                                    + " pg_backend_pid() AND application_name = 'Orderly Ferry' ORDER BY backend_start"
                            : "SELECT ID FROM information_schema.PROCESSLIST WHERE DB = DATABASE() AND ID <>"
                                    + " CONNECTION_ID() ORDER BY ID");
            return all.subList(1, all.size());
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void aConnectionServesOneTableAfterTheOtherUnlessItIsLostBetween(String system) throws Exception {
        Path source = folder.resolve("many-" + system + ".sqlite");
        List<String> tables = new ArrayList<>();
        for (int i = 10; i < 50; i++) {
            tables.add("CREATE TABLE drawer_" + i + " (id INTEGER PRIMARY KEY, label TEXT)");
            tables.add("INSERT INTO drawer_" + i + " VALUES (1, 'moss'), (2, 'fern')");
        }
        Databases.run("jdbc:sqlite:" + source, tables.toArray(String[]::new));
        String target = system.equals("MariaDB") ? Servers.newMaria() : Servers.newPostgres();
        List<String> told = new ArrayList<>();
        Set<String> seen = new TreeSet<>();
        try (Place from = Places.open("jdbc:sqlite:" + source);
                TargetPlace to = Places.openTarget(target)) {
            Load.from(from)
                    .lanes(1)
                    .listener(new ProgressListener() {
                        private int slices;

                        @Override
                        public void sliceFinished(TableName table) {
                            List<String> now = lanes(target);
                            seen.addAll(now);
                            if (++slices % 10 == 0) {
                                try {
                                    Databases.run(
                                            target,
                                            (target.contains("postgresql") ? "SELECT pg_terminate_backend(" : "KILL (")
                                                    + now.get(now.size() - 1) + ")");
                                } catch (SQLException e) {
                                    throw new IllegalStateException(e);
                                }
                            }
                        }

                        @Override
                        public void tryingAgain(TableName table, String why, long pauseMillis) {
                            told.add(table + ": " + why);
                        }
                    })
                    .into(to);
        }
        assertThat(told).isEmpty();
        // one, and another after each cut; a test's own that is about to end may be seen as well
        assertThat(seen).hasSizeBetween(4, 8);
        try (Place a = Places.open("jdbc:sqlite:" + source);
                Place b = Places.open(target)) {
            assertThat(Reconcile.between(a, b).compare().isEqual()).isTrue();
        }
    }

    @Test
    void aRecordOnItsWayFromServerToServerIsThereOnceWhicheverSideIsLost() throws Exception {
        String url = Servers.newPostgres();
        Databases.run(
                url,
                "CREATE TABLE big (id BIGINT PRIMARY KEY, label TEXT)",
                "INSERT INTO big SELECT i, repeat('moss and fern ' || i, 50) FROM generate_series(1, 60000) i");
        String target = Servers.newMaria();
        for (String cut : List.of(url, target)) {
            List<String> told = new ArrayList<>();
            try (Place from = Places.open(url);
                    TargetPlace to = Places.openTarget(target)) {
                Load.from(from)
                        .lanes(2)
                        .mode(LoadMode.REPLACE)
                        .listener(cutOnce(cut, told))
                        .into(to);
            }
            assertThat(told).as(cut).isNotEmpty();
            try (Place a = Places.open(url);
                    Place b = Places.open(target)) {
                assertThat(Reconcile.between(a, b).compare().isEqual()).as(cut).isTrue();
            }
        }
    }

    @Test
    void aSingleConnectionThatIsLostEndsTheExportAtOnce() throws Exception {
        String url = Servers.newPostgres();
        Databases.run(
                url,
                "CREATE TABLE big (id BIGINT PRIMARY KEY, label TEXT)",
                "INSERT INTO big SELECT i, repeat('moss and fern ' || i, 50) FROM generate_series(1, 60000) i");
        Path set = folder.resolve("single");
        List<String> told = new ArrayList<>();
        try (Place place = Places.open(url)) {
            assertThatThrownBy(() ->
                            Export.from(place).listener(cutOnce(url, told)).to(set))
                    .as("no other connection would see the same state")
                    .isInstanceOf(PlaceException.class)
                    .hasMessageContaining("the server ended the connection");
        }
        assertThat(set).doesNotExist();
    }

    @Test
    void aServerThatIsGoneIsToldOfAndNoSetIsLeft() throws Exception {
        LocalPostgres server = LocalPostgres.start();
        try {
            String url = server.url("postgres");
            Databases.run(
                    url,
                    "CREATE TABLE big (id INTEGER PRIMARY KEY)",
                    "INSERT INTO big SELECT generate_series(1, 200000)");
            Path set = folder.resolve("gone");
            assertThatThrownBy(() -> {
                        try (Place place = Places.open(url)) {
                            Export.from(place)
                                    .lanes(2)
                                    .sliceRows(20_000)
                                    .listener(new ProgressListener() {
                                        @Override
                                        public void moved(TableName table, long rows, long bytes) {
                                            server.close();
                                        }
                                    })
                                    .to(set);
                        }
                    })
                    .isInstanceOf(PlaceException.class);
            assertThat(set).doesNotExist();
        } finally {
            server.close();
        }
    }

    @Test
    void aServerThatRestartsInTheMiddleOfALoadHasEachRecordOnceInTheEnd() throws Exception {
        Path data = folder.resolve("restarted-data");
        AtomicReference<LocalPostgres> server = new AtomicReference<>(LocalPostgres.startIn(data, 0));
        try {
            int port = server.get().port();
            String url = server.get().url("postgres");
            String source = folder.resolve("restarted.sqlite").toString();
            Databases.run(
                    "jdbc:sqlite:" + source,
                    "CREATE TABLE big (id INTEGER PRIMARY KEY, label TEXT)",
                    "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 60000)"
                            + " INSERT INTO big SELECT i, 'moss and fern ' || i FROM n");
            AtomicBoolean restarted = new AtomicBoolean();
            ProgressListener restart = new ProgressListener() {
                @Override
                public void moved(TableName table, long rows, long bytes) {
                    if (restarted.compareAndSet(false, true)) {
                        server.get().close();
                        server.set(LocalPostgres.startIn(data, port));
                    }
                }
            };
            try (Place place = Places.open(source);
                    TargetPlace target = Places.openTarget(url)) {
                Load.from(place).listener(restart).into(target);
            } catch (PlaceException e) {
                // the load's own connection went down with the server: the next load undoes what it had done
                try (Place place = Places.open(source);
                        TargetPlace target = Places.openTarget(url)) {
                    Load.from(place).into(target);
                }
            }
            assertThat(restarted).isTrue();
            try (Place place = Places.open(source);
                    Place target = Places.open(url)) {
                assertThat(Reconcile.between(place, target).compare().isEqual()).isTrue();
                assertThat(target.tables()).containsExactly(TableName.of("big"));
            }
        } finally {
            server.get().close();
        }
    }
}
