package org.orderlyferry.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.examples.herbarium.Herbarium;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.transfer.Export;
import org.orderlyferry.transfer.Load;
import org.orderlyferry.transfer.TransferResult;

/** The whole herbarium between all pairs of systems, by way of a set, reconciled by digests of every value. */
class MatrixTest {

    @TempDir
    private static Path folder;

    private static final Map<String, String> SOURCES = new LinkedHashMap<>();

    private static String newPlace(String system, String name) throws SQLException {
        return switch (system) {
            case "H2" -> folder.resolve(name + ".mv.db").toString();
            case "SQLite" -> folder.resolve(name + ".sqlite").toString();
            default -> Servers.newPostgres();
        };
    }

    private static List<String> systems() {
        return List.of("H2", "SQLite", "PostgreSQL");
    }

    @BeforeAll
    static void makeTheHerbariumInEachSystem() throws Exception {
        Path origin = folder.resolve("H2.mv.db");
        new Herbarium().specimens(200).readings(300).create(origin);
        SOURCES.put("H2", origin.toString());
        Path set = folder.resolve("origin");
        export(origin.toString(), set);
        for (String system : systems()) {
            if (!system.equals("H2")) {
                String place = newPlace(system, system);
                load(set, place);
                SOURCES.put(system, place);
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
        Path set = folder.resolve(from + "-" + to);
        export(SOURCES.get(from), set);
        String target = newPlace(to, from + "-" + to);
        load(set, target);
        try (Place a = Places.open(SOURCES.get(from));
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
        keys.put("primary", table.primaryKey().map(k -> k.columns()).orElse(List.of()));
        keys.put(
                "unique",
                table.uniqueKeys().stream()
                        .map(k -> k.columns().toString())
                        .sorted()
                        .toList());
        keys.put(
                "references",
                table.foreignKeys().stream()
                        .map(k -> k.columns() + " " + k.target() + " " + k.targetColumns() + " "
                                + action(k.onDelete().sql()))
                        .sorted()
                        .toList());
        keys.put(
                "indexes",
                table.indexes().stream()
                        .map(i -> i.unique() + " " + i.parts())
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
}
