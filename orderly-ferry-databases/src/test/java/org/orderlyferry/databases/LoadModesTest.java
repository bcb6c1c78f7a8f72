package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Tables that are there already, in each system: what comes, what stays, and that a failure leaves the old state. */
class LoadModesTest {

    @TempDir
    private static Path folder;

    /** Beds and the plants in them; a plant may have a mother, and a bed has a plant that it is named after. */
    private static final List<String> TABLES = List.of(
            "CREATE TABLE bed (id INT4 NOT NULL PRIMARY KEY, name VARCHAR(20) NOT NULL, named_after INT4)",
            "CREATE TABLE plant (bed INT4 NOT NULL, no INT4 NOT NULL, label VARCHAR(20), mother INT4,"
                    + " weight DECIMAL(10,2), CONSTRAINT plant_key PRIMARY KEY (bed, no),"
                    + " CONSTRAINT plant_bed FOREIGN KEY (bed) REFERENCES bed (id),"
                    + " CONSTRAINT plant_heavy CHECK (weight > 0))",
            "CREATE INDEX plant_label ON plant (label)");

    private static Path set;
    private static Path later;
    private static Path broken;

    @BeforeAll
    static void makeTheSets() throws Exception {
        set = export(
                "set",
                "INSERT INTO bed VALUES (1, 'moss', NULL), (2, 'fern', NULL)",
                "INSERT INTO plant VALUES (1, 1, 'a', NULL, 1.5), (1, 2, NULL, NULL, NULL), (2, 1, 'c', NULL, 2)");
        later = export(
                "later",
                "INSERT INTO bed VALUES (2, 'fern', NULL), (3, 'heath', NULL)",
                "INSERT INTO plant VALUES (2, 1, 'changed', NULL, 2), (3, 1, 'new', NULL, 7), (2, 9, 'new too', NULL, 8)");
        broken = export(
                "broken",
                "INSERT INTO bed VALUES (7, 'reed', NULL)",
                "INSERT INTO plant VALUES (7, 1, 'fine', NULL, 1), (7, 2, 'too light', NULL, 3)");
    }

    private static Path export(String name, String... records) throws Exception {
        String file = folder.resolve(name + ".sqlite").toString();
        run("jdbc:sqlite:" + file, TABLES);
        run("jdbc:sqlite:" + file, List.of(records));
        Path made = folder.resolve(name);
        try (Place place = Places.open(file)) {
            Export.from(place).to(made);
        }
        return made;
    }

    private static int number;

    /** A new database with beds and plants of its own, a view, a table that refers to beds, and a trigger or grant. */
    private static String target(String system) throws SQLException {
        Path file = folder.resolve("target" + ++number + ".db");
        String url = TestSystem.of(system).fresh(folder);
        if (system.equals("H2")) {
            run(url, TABLES.stream().map(LoadModesTest::inQuotes).toList());
            run(
                    url,
                    List.of(
                            "INSERT INTO \"bed\" VALUES (2, 'fern', NULL)",
                            "INSERT INTO \"plant\" VALUES (2, 1, 'old', NULL, 2)",
                            "CREATE VIEW \"labels\" AS SELECT \"label\" FROM \"plant\"",
                            "CREATE TABLE \"sign\" (\"bed\" INTEGER CONSTRAINT \"sign_bed\" REFERENCES \"bed\" (\"id\"))",
                            "INSERT INTO \"sign\" VALUES (2)"));
            return url;
        }
        run(url, TABLES);
        run(
                url,
                List.of(
                        "INSERT INTO bed VALUES (2, 'fern', NULL)",
                        "INSERT INTO plant VALUES (2, 1, 'old', NULL, 2)",
                        "CREATE VIEW labels AS SELECT label FROM plant",
                        "CREATE TABLE sign (bed INTEGER, CONSTRAINT sign_bed FOREIGN KEY (bed) REFERENCES bed (id))",
                        "INSERT INTO sign VALUES (2)"));
        switch (system) {
            case "SQLite" ->
                run(
                        url,
                        List.of("CREATE TRIGGER shout AFTER INSERT ON plant BEGIN UPDATE plant SET label ="
                                + " UPPER(label) WHERE bed = NEW.bed AND no = NEW.no; END"));
            case "PostgreSQL" ->
                run(
                        url,
                        List.of(
                                "CREATE FUNCTION shout() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN NEW.label ="
                                        + " upper(NEW.label); RETURN NEW; END'",
                                "CREATE TRIGGER shout BEFORE INSERT ON plant FOR EACH ROW EXECUTE FUNCTION shout()",
                                "GRANT SELECT ON plant TO PUBLIC"));
            default ->
                run(
                        url,
                        List.of("CREATE TRIGGER shout BEFORE INSERT ON plant FOR EACH ROW SET NEW.label ="
                                + " UPPER(NEW.label)"));
        }
        return url;
    }

    private static String inQuotes(String sql) {
        return sql.replaceAll("\\b([a-z][a-z_]*)\\b", "\"$1\"");
    }

    private static void run(String url, List<String> statements) throws SQLException {
        Databases.run(url, statements.toArray(String[]::new));
    }

    private static List<String> rows(String url, String sql) throws SQLException {
        return Databases.rows(url, url.startsWith("jdbc:h2:") ? inQuotes(sql) : sql);
    }

    private static List<String> plants(String url) throws SQLException {
        return rows(url, "SELECT bed, no, label FROM plant ORDER BY bed, no");
    }

    private static void insert(String url, String sql) throws SQLException {
        run(url, List.of(url.startsWith("jdbc:h2:") ? inQuotes(sql) : sql));
    }

    private static TransferResult load(Path from, String url, LoadMode mode) {
        try (Place source = Places.open(from.toString());
                TargetPlace target = Places.openTarget(url)) {
            return Load.from(source).mode(mode).into(target);
        }
    }

    private static void noTraceIsLeft(String url) throws SQLException {
        try (Place place = Places.open(url)) {
            assertThat(place.tables()).extracting(TableName::name).containsExactly("bed", "plant", "sign");
            assertThat(place.leftBehind()).extracting(l -> l.kind()).doesNotContain("unfinished load");
        }
        List<String> names = new ArrayList<>();
        try (Connection connection = Databases.connect(url);
                ResultSet tables = connection.getMetaData().getTables(connection.getCatalog(), null, "%", null)) {
            while (tables.next()) {
                names.add(tables.getString("TABLE_NAME"));
            }
        }
        assertThat(names).noneMatch(n -> n.toLowerCase().startsWith("orderly_ferry"));
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aReplacedTableHasTheNewRecordsAndAllThatReferredToTheOldOne(String system) throws Exception {
        String url = target(system);
        load(later, url, LoadMode.REPLACE);
        assertThat(plants(url)).containsExactly("2 1 changed", "2 9 new too", "3 1 new");
        assertThat(rows(url, "SELECT label FROM labels ORDER BY label")).containsExactly("changed", "new", "new too");
        noTraceIsLeft(url);
        if (!system.equals("SQLite")) {
            assertThatThrownBy(() -> insert(url, "INSERT INTO sign VALUES (99)"))
                    .as("what refers to beds still does")
                    .isInstanceOf(SQLException.class);
            assertThatThrownBy(() -> insert(url, "INSERT INTO plant VALUES (99, 1, NULL, NULL, NULL)"))
                    .as("plants refer to the new beds")
                    .isInstanceOf(SQLException.class);
        }
        if (!system.equals("H2")) {
            insert(url, "INSERT INTO plant VALUES (3, 5, 'loud', NULL, 1)");
            assertThat(rows(url, "SELECT label FROM plant WHERE no = 5")).containsExactly("LOUD");
        }
        if (system.equals("PostgreSQL")) {
            assertThat(rows(url, "SELECT has_table_privilege('public', 'plant', 'SELECT')"))
                    .containsExactly("t");
        }
        try (Place place = Places.open(url)) {
            var plant = place.define(TableName.of("plant"));
            assertThat(plant.indexes()).extracting(i -> i.name()).contains("plant_label");
            assertThat(plant.foreignKeys()).extracting(k -> k.name()).containsExactly("plant_bed");
            assertThat(plant.checks()).extracting(c -> c.name()).containsExactly("plant_heavy");
            if (!system.equals("MariaDB")) {
                assertThat(plant.primaryKey().orElseThrow().name()).isEqualTo("plant_key");
            }
        }
        load(set, url, LoadMode.REPLACE);
        assertThat(plants(url)).as("and once more").containsExactly("1 1 a", "1 2 null", "2 1 c");
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aMergeAddsWhatIsNewAndChangesWhatHasChanged(String system) throws Exception {
        String url = target(system);
        TransferResult result = load(later, url, LoadMode.MERGE);
        assertThat(result.tables())
                .extracting(t -> t.table().name() + " " + t.merged().orElseThrow())
                .containsExactly("bed " + new Merged(1, 0, 1), "plant " + new Merged(2, 1, 0));
        assertThat(rows(url, "SELECT no, LOWER(label) FROM plant ORDER BY bed, no"))
                .containsExactly("1 changed", "9 new too", "1 new");
        TransferResult again = load(later, url, LoadMode.MERGE);
        assertThat(again.tables().get(0).merged()).contains(new Merged(0, 0, 2));
        noTraceIsLeft(url);
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void recordsAreAddedToThoseThatAreThereAndRefusedWhereTheirKeyIsTaken(String system) throws Exception {
        String url = target(system);
        assertThatThrownBy(() -> load(later, url, LoadMode.APPEND))
                .isInstanceOf(FerryException.class)
                .hasMessageContaining("bed")
                .hasMessageMatching("(?s).*\\b2\\b.*");
        assertThat(plants(url)).containsExactly("2 1 old");
        assertThat(rows(url, "SELECT id FROM bed")).containsExactly("2");
        load(broken, url, LoadMode.APPEND);
        assertThat(rows(url, "SELECT bed, no FROM plant ORDER BY bed, no")).containsExactly("2 1", "7 1", "7 2");
        noTraceIsLeft(url);
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aBrokenRuleIsToldWithItsKeyAndLeavesTheOldState(String system) throws Exception {
        // a record that breaks the check, one that refers to no bed, one with a key that another has
        for (String record :
                List.of("7, 2, 'light', NULL, -3.0", "8, 1, 'nowhere', NULL, 1.0", "7, 1, 'twice', NULL, 1.0")) {
            String loose = folder.resolve("loose" + ++number + ".sqlite").toString();
            run(
                    "jdbc:sqlite:" + loose,
                    List.of(
                            "CREATE TABLE bed (id INT4, name VARCHAR(20), named_after INT4)",
                            "CREATE TABLE plant (bed INT4, no INT4, label VARCHAR(20), mother INT4, weight DECIMAL(10,2))",
                            "INSERT INTO bed VALUES (7, 'reed', NULL), (2, 'fern', NULL)",
                            "INSERT INTO plant VALUES (7, 1, 'fine', NULL, 1.0), (" + record + ")"));
            for (LoadMode mode : List.of(LoadMode.REPLACE, LoadMode.MERGE)) {
                String url = target(system);
                assertThatThrownBy(() -> {
                            try (Place records = Places.open(loose);
                                    Place definitions = Places.open(set.toString());
                                    TargetPlace target = Places.openTarget(url)) {
                                Load.from(new Redefined(records, definitions))
                                        .mode(mode)
                                        .into(target);
                            }
                        })
                        .as("%s %s", mode, record)
                        .isInstanceOf(FerryException.class)
                        .hasMessageContaining("plant")
                        .satisfies(e -> assertThat(e.getSuppressed()).isEmpty())
                        .hasMessageMatching("(?s).*(bed = " + record.charAt(0) + ", no = " + record.charAt(3)
                                + "|bed = " + record.charAt(0) + ",? which|"
                                + record.charAt(0) + "-" + record.charAt(3) + ").*");
                assertThat(plants(url)).as("%s %s", mode, record).containsExactly("2 1 old");
                assertThat(rows(url, "SELECT label FROM labels")).containsExactly("old");
                noTraceIsLeft(url);
            }
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void columnsThatDoNotFitAreToldOfBeforeARecordMoves(String system) throws Exception {
        String url = target(system);
        insertDefinition(url, "ALTER TABLE plant ADD COLUMN height INTEGER");
        insertDefinition(url, "ALTER TABLE bed ADD COLUMN made DATE DEFAULT '2031-04-09' NOT NULL");
        Path file = folder.resolve("wide-" + system + ".sqlite");
        run(
                "jdbc:sqlite:" + file,
                List.of(
                        "CREATE TABLE plant (bed INT4, no BLOB, label TEXT, colour TEXT)",
                        "INSERT INTO plant VALUES (2, x'01', 'a text that is longer than the column', 'red')"));
        assertThatThrownBy(() -> {
                    try (Place source = Places.open(file.toString());
                            TargetPlace target = Places.openTarget(url)) {
                        Load.from(source).mode(LoadMode.APPEND).into(target);
                    }
                })
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("table plant has no column colour")
                .hasMessageContaining("column no: BINARY LARGE OBJECT can't be held by ");
        run(
                "jdbc:sqlite:" + file,
                List.of(
                        "ALTER TABLE plant DROP COLUMN colour",
                        "ALTER TABLE plant DROP COLUMN no",
                        "ALTER TABLE plant ADD COLUMN no INT4 NOT NULL DEFAULT 5"));
        try (Place source = Places.open(file.toString());
                TargetPlace target = Places.openTarget(url)) {
            TransferResult tried =
                    Load.from(source).mode(LoadMode.APPEND).rehearsal(true).into(target);
            assertThat(tried.refused()).isTrue();
            assertThat(tried.findings()).extracting(Finding::toString).anyMatch(f -> f.contains("plant.label"));
        }
        assertThat(plants(url)).containsExactly("2 1 old");
        noTraceIsLeft(url);
    }

    private static void insertDefinition(String url, String sql) throws SQLException {
        run(url, List.of(url.startsWith("jdbc:h2:") ? inQuotes(sql).replace("\"2031", "2031") : sql));
    }
}
