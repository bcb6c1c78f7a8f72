package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What goes wrong on a server, and what is there afterwards. */
class FaultsTest {

    @TempDir
    private static Path folder;

    private static Path set;

    @BeforeAll
    static void makeTheSet() throws Exception {
        Path origin = folder.resolve("origin.mv.db");
        new Herbarium().specimens(100).readings(60_000).create(origin);
        set = folder.resolve("set");
        try (Place place = Places.open(origin.toString())) {
            Export.from(place).to(set);
        }
    }

    private static String newDatabase(String system) throws SQLException {
        return system.equals("PostgreSQL") ? Servers.newPostgres() : Servers.newMaria();
    }

    /** Ends all connections to a database but the one that does it. */
    private static void endConnections(String url) throws SQLException {
        if (url.contains("postgresql")) {
            Databases.run(
                    url,
                    "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid"
                            + " <> pg_backend_pid()");
            return;
        }
        List<String> ids = new ArrayList<>();
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement();
                ResultSet row =
                        statement.executeQuery("SELECT ID FROM information_schema.PROCESSLIST WHERE DB = DATABASE()"
                                + " AND ID <> CONNECTION_ID()")) {
            while (row.next()) {
                ids.add(row.getString(1));
            }
        }
        for (String id : ids) {
            Databases.run(url, "KILL " + id);
        }
    }

    /** Ends the load's connection in the middle of a table. */
    private static ProgressListener cut(String url, String table) {
        return new ProgressListener() {
            private boolean done;

            @Override
            public void moved(TableName name, long rows, long bytes) {
                if (!done && name.name().equals(table)) {
                    done = true;
                    try {
                        endConnections(url);
                    } catch (SQLException e) {
                        throw new IllegalStateException(e);
                    }
                }
            }
        };
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void aConnectionThatIsCutInTheMiddleLeavesTheOldState(String system) throws Exception {
        String url = newDatabase(system);
        Databases.run(
                url,
                "CREATE TABLE chamber_reading (id BIGINT PRIMARY KEY, old INTEGER)",
                "INSERT INTO chamber_reading VALUES (1, 417)");
        for (LoadMode mode : List.of(LoadMode.REPLACE)) {
            Throwable thrown = catchThrowable(() -> {
                try (Place source = Places.open(set.toString());
                        TargetPlace target = Places.openTarget(url)) {
                    Load.from(source)
                            .tables("collector", "chamber_reading")
                            .mode(mode)
                            .listener(cut(url, "chamber_reading"))
                            .into(target);
                }
            });
            assertThat(thrown).isInstanceOf(PlaceException.class).hasMessageContaining("ended the connection");
            try (Place place = Places.open(url)) {
                assertThat(place.tables()).containsExactly(TableName.of("chamber_reading"));
                assertThat(place.define(TableName.of("chamber_reading")).columnNames())
                        .containsExactly("id", "old");
                assertThat(place.count(TableName.of("chamber_reading"))).isEqualTo(1);
                assertThat(place.leftBehind()).isEmpty();
            }
        }
        try (Place source = Places.open(set.toString());
                TargetPlace target = Places.openTarget(url)) {
            assertThat(Load.from(source)
                            .tables("chamber_reading")
                            .mode(LoadMode.REPLACE)
                            .into(target)
                            .rows())
                    .isEqualTo(60_000);
        }
    }

    @Test
    void aTargetThatFillsUpIsAsItWasBefore() throws Exception {
        assumeTrue(System.getenv("FERRY_TEST_MARIADB_URL") == null, "only a server of one's own may be filled up");
        String url = Servers.newMaria();
        Databases.run(url, "CREATE TABLE visitor (id INTEGER PRIMARY KEY)", "INSERT INTO visitor VALUES (1)");
        Databases.run(url, "SET GLOBAL innodb_file_per_table = OFF");
        try {
            Path large = folder.resolve("large.mv.db");
            new Herbarium().specimens(50).readings(600_000).create(large);
            assertThatThrownBy(() -> {
                        try (Place source = Places.open(large.toString());
                                TargetPlace target = Places.openTarget(url)) {
                            Load.from(source).tables("chamber_reading").into(target);
                        }
                    })
                    .isInstanceOf(FerryException.class)
                    .hasMessageContaining("the server's disk is full");
        } finally {
            Databases.run(url, "SET GLOBAL innodb_file_per_table = ON");
        }
        try (Place place = Places.open(url)) {
            assertThat(place.tables()).containsExactly(TableName.of("visitor"));
            assertThat(place.count(TableName.of("visitor"))).isEqualTo(1);
            assertThat(place.leftBehind()).isEmpty();
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void twoLoadsAtOnceDoNotMeet(String system) throws Exception {
        String url = newDatabase(system);
        List<Throwable> second = new ArrayList<>();
        ProgressListener other = new ProgressListener() {
            @Override
            public void tableStarted(TableName table, long rows) {
                if (second.isEmpty()) {
                    second.add(catchThrowable(() -> {
                        try (Place source = Places.open(set.toString());
                                TargetPlace target = Places.openTarget(url)) {
                            Load.from(source).tables("taxon").into(target);
                        }
                    }));
                }
            }
        };
        try (Place source = Places.open(set.toString());
                TargetPlace target = Places.openTarget(url)) {
            Load.from(source).tables("collector").listener(other).into(target);
        }
        assertThat(second.get(0))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("another load")
                .hasMessageContaining("is under way; nothing was changed");
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void aDatabaseThatIsNotThereIsMadeOnRequestOnly(String system) throws Exception {
        String url = newDatabase(system).replaceFirst("/ferry_(\\w+)\\?", "/made_$1?");
        PlaceAddress address = PlaceAddress.of(url);
        OpenOptions making = OpenOptions.builder().makeMissing(true).build();
        assertThatThrownBy(() -> Places.openTarget(url))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("there is no such database")
                .hasMessageContaining("make-missing");
        // what is made for nothing goes again
        Places.openTarget(address, making).close();
        assertThatThrownBy(() -> Places.open(url)).hasMessageContaining("there is no such database");
        try (Place source = Places.open(set.toString());
                TargetPlace target = Places.openTarget(address, making)) {
            Load.from(source).tables("taxon").into(target);
        }
        try (Place place = Places.open(url)) {
            assertThat(place.tables()).containsExactly(TableName.of("taxon"));
            assertThat(place.databases()).isEmpty();
        }
        try (Place server = Places.open(url.replaceFirst("/made_\\w+\\?", "/?"))) {
            assertThat(server.databases()).anyMatch(d -> d.startsWith("made_"));
        }
        Databases.run(
                url.replaceFirst("/made_\\w+\\?", system.equals("MariaDB") ? "/test?" : "/postgres?"),
                "DROP DATABASE " + url.replaceFirst(".*/(made_\\w+)\\?.*", "$1"));
    }

    @Test
    void severalSchemasGoTogetherAndAreMadeOnRequestOnly() throws Exception {
        String url = Servers.newPostgres();
        Databases.run(
                url,
                "CREATE SCHEMA old",
                "CREATE TABLE bed (id INTEGER PRIMARY KEY)",
                "CREATE TABLE old.bed (id INTEGER PRIMARY KEY REFERENCES public.bed)",
                "CREATE TABLE old.plant (id INTEGER, bed INTEGER REFERENCES old.bed)",
                "INSERT INTO bed VALUES (1)",
                "INSERT INTO old.bed VALUES (1)",
                "INSERT INTO old.plant VALUES (1, 1)");
        Path schemas = folder.resolve("schemas");
        try (Place place = Places.open(url)) {
            Export.from(place).to(schemas);
        }
        String other = Servers.newPostgres();
        assertThatThrownBy(() -> load(schemas, other, OpenOptions.DEFAULT))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("has no schema old");
        load(schemas, other, OpenOptions.builder().makeMissing(true).build());
        try (Place place = Places.open(other)) {
            assertThat(place.tables()).extracting(TableName::toString).containsExactly("bed", "old.bed", "old.plant");
            assertThat(place.define(new TableName("old", "plant"))
                            .foreignKeys()
                            .get(0)
                            .target())
                    .isEqualTo(new TableName("old", "bed"));
        }
        String maria = Servers.newMaria();
        TransferResult result = load(schemas, maria, OpenOptions.DEFAULT);
        assertThat(result.findings())
                .extracting(Object::toString)
                .contains(
                        "old.bed: the table becomes old_bed: there are no schemas here",
                        "old.plant: is named without its schema: there are no schemas here");
        try (Place place = Places.open(maria)) {
            assertThat(place.tables()).extracting(TableName::toString).containsExactly("bed", "old_bed", "plant");
            assertThat(place.define(TableName.of("plant")).foreignKeys().get(0).target())
                    .isEqualTo(TableName.of("old_bed"));
        }
        assertThat(Ferry.run("reconcile", url, maria).code()).isZero();
    }

    private static TransferResult load(Path from, String url, OpenOptions options) {
        try (Place source = Places.open(from.toString());
                TargetPlace target = Places.openTarget(PlaceAddress.of(url), options)) {
            return Load.from(source).into(target);
        }
    }

    @ParameterizedTest
    @EnumSource(OutOfRange.class)
    void valuesThatNoOtherSystemHoldsAreRefusedOrBecomeNullAsAsked(OutOfRange outOfRange) throws Exception {
        String maria = Servers.newMaria();
        Databases.run(
                maria,
                "CREATE TABLE seen (id INTEGER PRIMARY KEY, d DATE)",
                "SET SESSION sql_mode = ''",
                "INSERT INTO seen VALUES (1, '0000-00-00'), (2, '2031-04-09'), (3, '0000-00-00')");
        String postgres = Servers.newPostgres();
        Databases.run(
                postgres,
                "CREATE TABLE seen (id INTEGER PRIMARY KEY, d DATE, n NUMERIC)",
                "INSERT INTO seen VALUES (1, 'infinity', 1), (2, '2031-04-09', 'NaN')");
        OpenOptions options = OpenOptions.builder().outOfRange(outOfRange).build();
        for (String url : List.of(maria, postgres)) {
            Path out = folder.resolve("out-" + outOfRange + (url.equals(maria) ? "m" : "p"));
            try (Place place = Places.open(PlaceAddress.of(url), options)) {
                if (outOfRange == OutOfRange.REFUSE) {
                    assertThatThrownBy(() -> Export.from(place).to(out))
                            .isInstanceOf(BadValueException.class)
                            .hasMessageContaining("table seen, record 1 (id = 1), column d: ")
                            .hasMessageContaining("the option out-of-range can make it null");
                } else {
                    assertThat(Export.from(place).to(out).findings())
                            .extracting(Object::toString)
                            .containsAnyOf(
                                    "seen.d: 2 values, such as '0000-00-00', became null: it is no DATE that another system"
                                            + " could hold",
                                    "seen.d: 1 value, such as 'infinity', became null: it is no date that another system"
                                            + " could hold");
                }
            }
        }
    }

    /** Told on export, and not when the set is loaded, where the lane has values in binary and where it has their text. */
    @Test
    void theMidnightAtADaysEndIsATimeOfPostgresAlone() throws Exception {
        String url = Servers.newPostgres();
        Databases.run(
                url,
                "CREATE TABLE seen (id INTEGER PRIMARY KEY, t TIME, short TIME(0))",
                "CREATE TABLE quiet (id INTEGER PRIMARY KEY)",
                "INSERT INTO seen VALUES (1, '23:59:59.999999', '23:59:59'), (2, '12:00', '23:59:59.7'),"
                        + " (3, '24:00', '0:00')");
        String said =
                "'24:00:00' is no time of day that another system could hold; the option out-of-range can make it null";
        try (Place place = Places.open(url)) {
            assertThatThrownBy(() -> Export.from(place).to(folder.resolve("refused")))
                    .hasMessageContaining(said);
            assertThatThrownBy(() -> Export.from(place)
                            .query("asked", "SELECT * FROM seen WHERE id <> 2")
                            .tables("quiet")
                            .to(folder.resolve("asked")))
                    .hasMessageContaining(said);
        }
        OpenOptions options = OpenOptions.builder().outOfRange(OutOfRange.NULL).build();
        Path set = folder.resolve("nulls");
        try (Place place = Places.open(PlaceAddress.of(url), options)) {
            assertThat(Export.from(place).to(set).findings())
                    .extracting(Object::toString)
                    .anyMatch(f -> f.contains("seen.t: 1 value, such as '24:00:00', became null"));
        }
        assertThat(set.resolve("data/seen.csv"))
                .hasContent("id,t,short\r\n1,23:59:59.999999,23:59:59\r\n2,12:00:00,\r\n3,,00:00:00\r\n");
    }

    @Test
    void aPasswordIsNeverShownWhateverADriverSays() {
        Secrets secrets = new Secrets(name -> "s3cr&t-" + name, prompt -> null);
        OpenOptions options = OpenOptions.builder().secrets(secrets).build();
        for (String url : List.of(
                "jdbc:postgresql://localhost:1/x?user=a&password=${env:PW}",
                "jdbc:postgresql://localhost:${env:PW}/x",
                "jdbc:mariadb://localhost:1/x?user=a&password=${env:PW}",
                "jdbc:mariadb://localhost:${env:PW}/x",
                "jdbc:h2:/no/such/place/${env:PW};PASSWORD=${env:PW}")) {
            Throwable thrown = catchThrowable(() -> Places.open(PlaceAddress.of(url), options));
            assertThat(thrown).as(url).isInstanceOf(FerryException.class);
            assertThat(thrown.getMessage()).as(url).doesNotContain("s3cr");
        }
    }

    @Test
    void whatTheUrlSaysOfTlsIsHeeded() throws Exception {
        String url = Servers.newPostgres() + "&sslmode=require";
        assertThatThrownBy(() -> Places.open(url))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("SSL");
    }
}
