package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** References between columns of other types than each other, which some systems have and others refuse. */
class ReferenceTypesTest {

    @TempDir
    Path folder;

    private static TransferResult load(Place source, String to) {
        try (TargetPlace target = Places.openTarget(to)) {
            return Load.from(source).mode(LoadMode.REPLACE).into(target);
        }
    }

    /** What a target would refuse in the end, when all records have moved, is told before. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.databases.AllTargets#names")
    void aReferenceIsMadeOrLeftBehindByName(String system) throws Exception {
        String from = TestSystem.SQLITE.fresh(folder);
        Databases.run(
                from,
                "CREATE TABLE soil (id INTEGER PRIMARY KEY, code VARCHAR(20) NOT NULL UNIQUE, price DECIMAL(9,2) NOT NULL UNIQUE,"
                        + " dug DATE NOT NULL UNIQUE)",
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, a VARCHAR(20) REFERENCES soil (id), b INTEGER REFERENCES soil (code),"
                        + " c BOOLEAN REFERENCES soil (id), d SMALLINT REFERENCES soil (id), e VARCHAR(20) REFERENCES soil (code),"
                        + " f INTEGER REFERENCES soil (price), g VARCHAR(10) REFERENCES soil (dug), h INTEGER REFERENCES bed (id))",
                "INSERT INTO soil VALUES (1, '1', 1.00, '2031-04-09')",
                "INSERT INTO bed VALUES (1, '1', 1, 1, 1, '1', 1, '2031-04-09', 1)");
        String to = AllTargets.fresh(system, folder);
        try (Place source = Places.open(from)) {
            TransferResult result = load(source, to);
            Set<String> left = result.leftBehind().stream()
                    .filter(l -> l.kind().equals("foreign key"))
                    .map(LeftBehind::name)
                    .collect(Collectors.toSet());
            try (Place there = Places.open(to)) {
                assertThat(there.define(there.tables().stream()
                                        .filter(t -> t.name().equalsIgnoreCase("bed"))
                                        .findFirst()
                                        .orElseThrow())
                                .foreignKeys())
                        .hasSize(8 - left.size());
                assertThat(Reconcile.between(source, there).compare().tables())
                        .allMatch(t -> t.verdict() == Verdict.EQUAL);
            }
            if (!system.equals("SQLite")) {
                assertThat(left).contains("bed.a", "bed.b", "bed.c", "bed.g");
            }
            assertThat(left).doesNotContain("bed.d", "bed.e", "bed.h");
        }
    }

    /** MariaDB writes truth values and small numbers alike; a number refers to a number, whatever values it has. */
    @Test
    void whatRefersToANumberIsOne() throws Exception {
        String from = Servers.newMaria();
        Databases.run(
                from,
                "CREATE TABLE kind (id tinyint(3) PRIMARY KEY)",
                "CREATE TABLE state (id tinyint(1) PRIMARY KEY)",
                "CREATE TABLE dry (id tinyint(1) PRIMARY KEY)",
                "CREATE TABLE counted (id tinyint(1) AUTO_INCREMENT PRIMARY KEY)",
                "CREATE TABLE bed (id tinyint(1) PRIMARY KEY, kind tinyint(1), state tinyint(1), dry tinyint(1), next tinyint(1),"
                        + " FOREIGN KEY (kind) REFERENCES kind (id), FOREIGN KEY (state) REFERENCES state (id),"
                        + " FOREIGN KEY (dry) REFERENCES dry (id), FOREIGN KEY (next) REFERENCES bed (id))",
                "INSERT INTO kind VALUES (0), (1)",
                "INSERT INTO state VALUES (0), (1), (2)",
                "INSERT INTO dry VALUES (0), (1)",
                "INSERT INTO counted VALUES (1)",
                "INSERT INTO bed VALUES (0, 1, 1, 1, 0), (1, 0, 0, 0, 1)");
        try (Place source = Places.open(from)) {
            assertThat(source.define(TableName.of("bed")).columns())
                    .extracting(c -> c.type().name())
                    .containsExactly(
                            TypeName.BOOLEAN, TypeName.SMALLINT, TypeName.SMALLINT, TypeName.BOOLEAN, TypeName.BOOLEAN);
            assertThat(source.define(TableName.of("counted"))
                            .columns()
                            .get(0)
                            .type()
                            .name())
                    .isEqualTo(TypeName.SMALLINT);
            for (String to : List.of(Servers.newPostgres(), TestSystem.H2.fresh(folder), Servers.newMaria())) {
                TransferResult result = load(source, to);
                assertThat(result.leftBehind()).noneMatch(l -> l.kind().equals("foreign key"));
                try (Place there = Places.open(to)) {
                    assertThat(there.define(TableName.of("bed")).foreignKeys()).hasSize(4);
                    assertThat(Reconcile.between(source, there).compare().tables())
                            .allMatch(t -> t.verdict() == Verdict.EQUAL);
                }
            }
        }
    }

    /** As somebody has it who made a counter first, and gave more room to what refers to it. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.databases.AllTargets#names")
    void aWiderColumnRefersToANarrowerOne(String system) throws Exception {
        String from = Servers.newPostgres();
        Databases.run(
                from,
                "CREATE TABLE soil (id SERIAL PRIMARY KEY, code VARCHAR(8) NOT NULL UNIQUE)",
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, soil BIGINT REFERENCES soil, code VARCHAR(20) REFERENCES soil (code))",
                "INSERT INTO soil (code) VALUES ('loam'), ('sand')",
                "INSERT INTO bed VALUES (1, 2, 'sand'), (2, NULL, NULL)");
        String to = AllTargets.fresh(system, folder);
        try (Place source = Places.open(from)) {
            TransferResult result = load(source, to);
            assertThat(result.leftBehind()).noneMatch(l -> l.kind().equals("foreign key"));
            try (Place there = Places.open(to)) {
                assertThat(Reconcile.between(source, there).compare().tables())
                        .allMatch(t -> t.verdict() == Verdict.EQUAL);
            }
        }
    }

    /** It can be as one of the two is; it doesn't become the one and the other in turn. */
    @Test
    void whatRefersToTwoTypesKeepsOneReference() throws Exception {
        String from = Servers.newPostgres();
        Databases.run(
                from,
                "CREATE TABLE soil (id INTEGER PRIMARY KEY)",
                "CREATE TABLE stone (id BIGINT PRIMARY KEY)",
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, ground BIGINT REFERENCES soil,"
                        + " FOREIGN KEY (ground) REFERENCES stone (id))",
                "INSERT INTO soil VALUES (1)",
                "INSERT INTO stone VALUES (1)",
                "INSERT INTO bed VALUES (1, 1)");
        try (Place source = Places.open(from)) {
            TransferResult result = load(source, Servers.newMaria());
            assertThat(result.leftBehind())
                    .filteredOn(l -> l.kind().equals("foreign key"))
                    .hasSize(1);
            assertThat(result.findings()).hasSizeLessThan(4);
        }
    }

    /** A text that is a part of one key has less room than the key that it refers to. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.databases.AllTargets#names")
    void aPartOfAKeyRefersToAWholeOne(String system) throws Exception {
        String from = Servers.newPostgres();
        Databases.run(
                from,
                "CREATE TABLE soil (name text PRIMARY KEY)",
                "CREATE TABLE bed (soil text REFERENCES soil, spot text, raw bytea, PRIMARY KEY (soil, spot))",
                "INSERT INTO soil VALUES ('peat'), ('loam')",
                "INSERT INTO bed VALUES ('peat', 'north'), ('peat', 'south'), ('loam', 'south')");
        String to = AllTargets.fresh(system, folder);
        try (Place source = Places.open(from)) {
            assertThat(load(source, to).leftBehind()).isEmpty();
            try (Place there = Places.open(to)) {
                TableDefinition bed = there.define(there.tables().stream()
                        .filter(t -> t.name().equalsIgnoreCase("bed"))
                        .findFirst()
                        .orElseThrow());
                assertThat(bed.foreignKeys()).hasSize(1);
                assertThat(bed.primaryKey().orElseThrow().columns()).hasSize(2);
                assertThat(Reconcile.between(source, there).compare().isEqual()).isTrue();
            }
        }
    }
}
