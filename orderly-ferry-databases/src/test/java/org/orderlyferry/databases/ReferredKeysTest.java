package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** References to unique indexes, and by columns in another order than the key's, which some systems have and others refuse. */
class ReferredKeysTest {

    @TempDir
    Path folder;

    private String from;

    @BeforeEach
    void beds() throws Exception {
        from = TestSystem.SQLITE.fresh(folder);
        Databases.run(
                from,
                "CREATE TABLE soil (id INTEGER PRIMARY KEY, code VARCHAR(20) NOT NULL, a INTEGER NOT NULL, b INTEGER,"
                        + " c INTEGER NOT NULL)",
                "CREATE INDEX soil_code2 ON soil (code)",
                "CREATE UNIQUE INDEX soil_code ON soil (code)",
                "CREATE UNIQUE INDEX soil_ab ON soil (a, b)",
                "CREATE UNIQUE INDEX soil_ca ON soil (c, a)",
                "CREATE INDEX soil_id ON soil (id)",
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, code VARCHAR(20) REFERENCES soil (code), a INTEGER, b INTEGER,"
                        + " c INTEGER, d INTEGER, FOREIGN KEY (a, b) REFERENCES soil (b, a), FOREIGN KEY (c, d) REFERENCES soil (a, c))",
                "INSERT INTO soil VALUES (1, 'x', 1, 2, 3), (2, 'y', 2, NULL, 4)",
                "INSERT INTO bed VALUES (1, 'x', 2, 1, 1, 3), (2, NULL, NULL, 2, NULL, NULL)");
    }

    private static TableDefinition table(Place place, String name) {
        return place.define(place.tables().stream()
                .filter(t -> t.name().toLowerCase(Locale.ROOT).equals(name))
                .findFirst()
                .orElseThrow());
    }

    private static Set<String> left(TransferResult result, String kind) {
        return result.leftBehind().stream()
                .filter(l -> l.kind().equals(kind))
                .map(LeftBehind::name)
                .collect(Collectors.toSet());
    }

    /** A unique index says what a key says, and the order of a reference's columns says nothing. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.databases.AllTargets#names")
    void theyComeAsWhatTheTargetCanReferTo(String system) throws Exception {
        String to = AllTargets.fresh(system, folder);
        try (Place source = Places.open(from)) {
            TransferResult result;
            try (TargetPlace target = Places.openTarget(to)) {
                result = Load.from(source).into(target);
            }
            // to SQL Server two nulls are equal, so what may be null is unique in some records only
            assertThat(left(result, "foreign key"))
                    .isEqualTo(system.equals("SQL Server") ? Set.of("bed.a+b") : Set.of());
            assertThat(left(result, "index"))
                    .isEqualTo(
                            List.of("Derby", "Oracle").contains(system)
                                    ? Set.of("soil.soil_code2", "soil.soil_id")
                                    : Set.of());
            try (Place there = Places.open(to)) {
                assertThat(table(there, "bed").foreignKeys()).hasSize(system.equals("SQL Server") ? 2 : 3);
                TableDefinition soil = table(there, "soil");
                Stream<List<String>> unique = Stream.concat(
                        soil.uniqueKeys().stream().map(k -> k.columns()),
                        soil.indexes().stream().filter(i -> i.unique()).map(i -> i.columns()));
                assertThat(unique.map(c -> String.join(",", c).toLowerCase(Locale.ROOT)))
                        .containsExactlyInAnyOrder("code", "a,b", "c,a");
                assertThat(Reconcile.between(source, there).compare().isEqual()).isTrue();
            }
        }
    }

    /** What is there stays as it is: a key isn't made of its index. */
    @ParameterizedTest
    @ValueSource(strings = {"H2", "Derby"})
    void anIndexOfATableThatIsThereBecomesNoKey(String system) throws Exception {
        String to = AllTargets.fresh(system, folder);
        Databases.run(
                to,
                "CREATE TABLE \"soil\" (\"id\" INTEGER NOT NULL PRIMARY KEY, \"code\" VARCHAR(20) NOT NULL)",
                "CREATE UNIQUE INDEX \"one_code\" ON \"soil\" (\"code\")",
                "INSERT INTO \"soil\" VALUES (1, 'x')");
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            TransferResult result =
                    Load.from(source).tables("bed").mode(LoadMode.CREATE).into(target);
            assertThat(left(result, "foreign key")).containsExactlyInAnyOrder("bed.code", "bed.a+b", "bed.c+d");
        }
    }

    /** Its driver says of such a key that it is no more than an index, and a load from there would have lost it. */
    @Test
    void aKeyOfDerbyOfWhichColumnsMayBeNullIsAKey() throws Exception {
        String derby = AllTargets.fresh("Derby", folder);
        Databases.run(
                derby,
                "CREATE TABLE label (id INTEGER NOT NULL PRIMARY KEY, bed INTEGER, place INTEGER, UNIQUE (bed, place))",
                "CREATE INDEX label_place ON label (place)");
        try (Place place = Places.open(derby)) {
            TableDefinition label = table(place, "label");
            assertThat(label.uniqueKeys()).extracting(k -> k.columns()).containsExactly(List.of("BED", "PLACE"));
            assertThat(label.indexes()).extracting(i -> i.columns()).containsExactly(List.of("PLACE"));
        }
    }
}
