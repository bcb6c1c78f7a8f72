package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** The whole herbarium between all pairs of systems, by way of a set, reconciled by digests of every value. */
class MatrixTest {

    @TempDir
    private static Path folder;

    /** The herbarium in each system: whole, and with no dates beyond what MariaDB has. */
    private static final Map<String, String> WHOLE = new LinkedHashMap<>();

    private static final Map<String, String> WITHIN = new LinkedHashMap<>();

    private static String newPlace(String system, String name) throws SQLException {
        return TestSystem.of(system).fresh(folder);
    }

    private static List<String> systems() {
        return TestSystem.names().toList();
    }

    private static boolean isMaria(String system) {
        return system.equals("MariaDB");
    }

    @BeforeAll
    static void makeTheHerbariumInEachSystem() throws Exception {
        Path whole = folder.resolve("whole.mv.db");
        new Herbarium().specimens(200).readings(300).create(whole);
        spread(whole, WHOLE, systems().stream().filter(s -> !isMaria(s)).toList());
        Path within = folder.resolve("within.mv.db");
        new Herbarium().specimens(200).readings(300).commonDates(true).create(within);
        spread(within, WITHIN, systems());
    }

    private static void spread(Path origin, Map<String, String> places, List<String> systems) throws Exception {
        places.put("H2", origin.toString());
        Path set = folder.resolve(origin.getFileName() + "-set");
        export(origin.toString(), set);
        for (String system : systems) {
            if (!system.equals("H2")) {
                String place = newPlace(system, origin.getFileName() + system);
                load(set, place);
                places.put(system, place);
            }
        }
    }

    private static void export(String from, Path set) {
        try (Place source = Places.open(from)) {
            Export.from(source).to(set);
        }
    }

    private static TransferResult load(Path set, String to) {
        try (Place source = Places.open(set.toString());
                TargetPlace target = Places.openTarget(to)) {
            return Load.from(source).into(target);
        }
    }

    static Stream<Arguments> pairs() {
        return systems().stream().flatMap(a -> systems().stream().map(b -> Arguments.of(a, b)));
    }

    @ParameterizedTest(name = "{0} to {1}")
    @MethodSource("pairs")
    void allRecordsArriveAndAllKeysDo(String from, String to) throws Exception {
        String source = (isMaria(from) || isMaria(to) ? WITHIN : WHOLE).get(from);
        Path set = folder.resolve(from + "-" + to);
        export(source, set);
        String target = newPlace(to, from + "-" + to);
        load(set, target);
        try (Place a = Places.open(source);
                Place b = Places.open(target)) {
            assertThat(Reconcile.between(a, b).compare().tables()).allSatisfy(t -> assertThat(t.verdict())
                    .as("%s: %s", t.table(), t.differing())
                    .hasToString("EQUAL"));
            for (TableName table : a.tables()) {
                assertThat(keys(b.define(table))).as(table.toString()).isEqualTo(keys(a.define(table)));
            }
        }
    }

    /** Keys, references, indexes, nullability, defaults and counters, without the words of any system. */
    private static Map<String, Object> keys(TableDefinition table) {
        Map<String, Object> keys = new TreeMap<>();
        keys.put("primary", table.primaryKey().map(Key::columns).orElse(List.of()));
        // a unique index and a unique key are one thing in MariaDB
        Stream<List<String>> unique = Stream.concat(
                table.uniqueKeys().stream().map(Key::columns),
                table.indexes().stream().filter(IndexDefinition::unique).map(IndexDefinition::columns));
        keys.put("unique", unique.map(List::toString).sorted().toList());
        Stream<IndexDefinition> indexes = table.indexes().stream().filter(i -> !i.unique());
        keys.put("indexes", indexes.map(i -> i.parts().toString()).sorted().toList());
        keys.put(
                "references",
                table.foreignKeys().stream()
                        .map(k -> k.columns() + " " + k.target() + " " + k.targetColumns() + " "
                                + action(k.onDelete().sql()))
                        .sorted()
                        .toList());
        keys.put("checks", table.checks().size());
        table.columns()
                .forEach(c -> keys.put(
                        "column " + c.name(),
                        c.nullable() + " " + c.defaultValue() + " "
                                + c.identity().map(i -> i.next())));
        return keys;
    }

    /** The two forbid the same, but for references that are checked late. */
    private static String action(String sql) {
        return sql.replace("RESTRICT", "NO ACTION");
    }

    @Test
    void datesBeyondWhatMariaDbHasAreRefusedByNameAndNothingIsLeft() throws Exception {
        String target = Servers.newMaria();
        assertThatThrownBy(() -> load(folder.resolve("whole.mv.db-set"), target))
                .isInstanceOf(BadValueException.class)
                .hasMessageContaining(
                        "table calibration, column day: '-4712-01-01' can't be held: MariaDB's dates go from");
        try (Place place = Places.open(target)) {
            assertThat(place.tables()).isEmpty();
            assertThat(place.leftBehind()).isEmpty();
        }
    }

    @Test
    void theApplicationsFirstInsertWorksOnEachServer() throws Exception {
        for (String system : List.of("PostgreSQL", "MariaDB")) {
            String quote = isMaria(system) ? "`" : "\"";
            String sql = "INSERT INTO collector (name, field_code, active) VALUES ('N. Ewcomer', 'ZZZZZ', "
                    + (isMaria(system) ? "1)" : "TRUE)");
            try (Connection connection = DriverManager.getConnection(WITHIN.get(system));
                    Statement statement = connection.createStatement()) {
                connection.setAutoCommit(false);
                statement.executeUpdate(sql);
                try (ResultSet row =
                        statement.executeQuery("SELECT MAX(" + quote + "id" + quote + ") FROM collector")) {
                    row.next();
                    assertThat(row.getLong(1)).as(system).isEqualTo(41);
                }
                connection.rollback();
            }
        }
    }

    @Test
    void aServersErrorsAreExplained() throws Exception {
        assertThatThrownBy(() -> Places.open("jdbc:postgresql://localhost:1/x?user=nobody"))
                .hasMessageContaining("the server can't be reached; is it running at that address?");
        assertThatThrownBy(() -> Places.open("jdbc:mariadb://localhost:1/x?user=nobody"))
                .hasMessageContaining("the server can't be reached");
        assertThatThrownBy(() -> Places.open(Servers.newPostgres().replaceFirst("/[^/?]*\\?", "/nowhere?")))
                .hasMessageContaining("there is no such database");
        assertThatThrownBy(() -> Places.open(Servers.newMaria().replaceFirst("/[^/?]*\\?", "/nowhere?")))
                .hasMessageContaining("there is no such database");
    }

    @Test
    void aConnectionThatIsCutInTheMiddleOfALoadLeavesNothing() throws Exception {
        String target = Servers.newPostgres();
        AtomicBoolean cut = new AtomicBoolean();
        ProgressListener cutter = new ProgressListener() {
            @Override
            public void tableStarted(TableName table, long rows) {
                if (table.name().equals("specimen") && !cut.getAndSet(true)) {
                    try (Connection connection = DriverManager.getConnection(target);
                            Statement statement = connection.createStatement()) {
                        statement.execute("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname ="
                                + " current_database() AND pid <> pg_backend_pid()");
                    } catch (SQLException e) {
                        throw new IllegalStateException(e);
                    }
                }
            }
        };
        Path set = folder.resolve("whole.mv.db-set");
        assertThatThrownBy(() -> {
                    try (Place source = Places.open(set.toString());
                            TargetPlace place = Places.openTarget(target)) {
                        Load.from(source).listener(cutter).into(place);
                    }
                })
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("the server ended the connection");
        try (Place place = Places.open(target)) {
            assertThat(place.tables()).isEmpty();
        }
        load(set, target);
    }
}
