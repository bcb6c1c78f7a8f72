package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What is usual in one system and has no like in another: counters without a sign, long texts in indexes. */
class CountersElsewhereTest {

    @TempDir
    private Path folder;

    static List<String> systems() {
        return TestSystem.names().toList();
    }

    private static TransferResult move(String from, String to, LoadMode mode) {
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            return Load.from(source).mode(mode).into(target);
        }
    }

    private static TableDefinition define(String url, String table) {
        try (Place place = Places.open(url)) {
            return place.define(place.tables().stream()
                    .filter(t -> t.name().equals(table))
                    .findFirst()
                    .orElseThrow());
        }
    }

    private static void mustBeEqual(String one, String other) {
        try (Place source = Places.open(one);
                Place target = Places.open(other)) {
            assertThat(Reconcile.between(source, target).compare().isEqual()).isTrue();
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void aCounterWithoutASignKeepsItsReferences(String system) throws Exception {
        String maria = Servers.newMaria();
        Databases.run(
                maria,
                "CREATE TABLE bed (id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY, note VARCHAR(20))",
                "CREATE TABLE plant (bed BIGINT UNSIGNED, no INT UNSIGNED AUTO_INCREMENT, name VARCHAR(20),"
                        + " PRIMARY KEY (name), KEY counted (no), FOREIGN KEY (bed) REFERENCES bed (id))",
                "INSERT INTO bed (note) VALUES ('wet'), ('dry')",
                "INSERT INTO plant (bed, name) VALUES (1, 'moss'), (NULL, 'fern'), (2, 'heath')");
        String url = TestSystem.of(system).fresh(folder);
        move(maria, url, LoadMode.CREATE);
        mustBeEqual(maria, url);
        assertThat(define(url, "plant").foreignKeys()).hasSize(1);
        assertThat(define(url, "bed").columns().get(0).identity()).isPresent();
        // a rehearsal is done again, both tables at once
        move(maria, url, LoadMode.REPLACE);
        mustBeEqual(maria, url);
    }

    /** Only MariaDB knows references to a part of a key; elsewhere they are left behind by name. */
    @ParameterizedTest
    @MethodSource("systems")
    void aReferenceToTheBeginningOfAKeyIsMadeOrTold(String system) throws Exception {
        String maria = Servers.newMaria();
        Databases.run(
                maria,
                "CREATE TABLE bed (house INT, no INT, kind INT, PRIMARY KEY (house, no), KEY kinds (kind))",
                "CREATE TABLE plant (id INT PRIMARY KEY, house INT, kind INT, FOREIGN KEY (house) REFERENCES bed (house),"
                        + " FOREIGN KEY (kind) REFERENCES bed (kind))",
                "INSERT INTO bed VALUES (1, 1, 5), (1, 2, 6)",
                "INSERT INTO plant VALUES (1, 1, 5)");
        String url = TestSystem.of(system).fresh(folder);
        TransferResult result = move(maria, url, LoadMode.CREATE);
        mustBeEqual(maria, url);
        boolean made = system.equals("MariaDB");
        assertThat(define(url, "plant").foreignKeys()).hasSize(made ? 2 : 0);
        assertThat(result.leftBehind()).hasSize(made ? 0 : 2).allMatch(l -> l.reason()
                .contains("which no key of it holds"));
    }

    @Test
    void textsInAnIndexStayWholeInMaria() throws Exception {
        String postgres = Servers.newPostgres();
        String text = "m".repeat(4_000);
        Databases.run(
                postgres,
                "CREATE TABLE leaf (id int PRIMARY KEY, kind text, note text, code varchar(700), flag boolean)",
                "CREATE INDEX leaf_notes ON leaf (kind, note, code, flag)",
                "CREATE INDEX leaf_code ON leaf (code DESC)",
                "INSERT INTO leaf VALUES (1, '" + text + "', '" + text + "', 'c', true)");
        String maria = Servers.newMaria();
        TransferResult result = move(postgres, maria, LoadMode.CREATE);
        mustBeEqual(postgres, maria);
        TableDefinition leaf = define(maria, "leaf");
        assertThat(leaf.column("note").map(ColumnDefinition::type)).contains(LogicalType.CLOB);
        assertThat(leaf.indexes()).extracting(IndexDefinition::name).contains("leaf_notes", "leaf_code");
        assertThat(result.findings())
                .anyMatch(f -> f.table().equals(TableName.of("leaf"))
                        && f.text().contains("leaf_notes holds the first")
                        && f.text().contains("values stay whole"));
    }

    @Test
    void aRowOfLongTextsHasRoomInMaria() throws Exception {
        String postgres = Servers.newPostgres();
        String columns = IntStream.range(0, 120)
                .mapToObj(i -> "c" + i + " varchar(" + (100 + i) + ")")
                .collect(Collectors.joining(", "));
        Databases.run(
                postgres,
                "CREATE TABLE leaf (id int PRIMARY KEY, " + columns + ", thumb bytea, code varchar(255) UNIQUE)",
                "INSERT INTO leaf (id, c0, c119, code) VALUES (1, 'moss', repeat('\u00fc', 219), 'a')");
        String maria = Servers.newMaria();
        TransferResult result = move(postgres, maria, LoadMode.CREATE);
        mustBeEqual(postgres, maria);
        TableDefinition leaf = define(maria, "leaf");
        assertThat(leaf.column("c0").map(ColumnDefinition::type)).contains(LogicalType.varchar(100));
        assertThat(leaf.column("code").map(ColumnDefinition::type)).contains(LogicalType.varchar(255));
        assertThat(leaf.column("c119").map(ColumnDefinition::type)).contains(LogicalType.CLOB);
        assertThat(result.findings())
                .anyMatch(f -> f.column().equals("c119") && f.text().contains("a row of MariaDB's has 65535 bytes"));
    }

    @Test
    void keysOfLongTextsShareTheirRoomInMaria() throws Exception {
        String postgres = Servers.newPostgres();
        Databases.run(
                postgres,
                "CREATE TABLE leaf (code varchar(1000) PRIMARY KEY, kind varchar(300), note text, no int,"
                        + " UNIQUE (kind, note, no))",
                "CREATE TABLE vein (leaf varchar(1000) REFERENCES leaf)",
                "INSERT INTO leaf VALUES ('a', 'moss', 'wet', 1), ('b', 'moss', 'dry', 1)",
                "INSERT INTO vein VALUES ('a'), (NULL)");
        String maria = Servers.newMaria();
        TransferResult result = move(postgres, maria, LoadMode.CREATE);
        mustBeEqual(postgres, maria);
        TableDefinition leaf = define(maria, "leaf");
        assertThat(leaf.primaryKey()).isPresent();
        assertThat(leaf.uniqueKeys()).hasSize(1);
        assertThat(define(maria, "vein").foreignKeys()).hasSize(1);
        assertThat(leaf.column("code").map(ColumnDefinition::type)).contains(LogicalType.varchar(768));
        assertThat(leaf.column("kind").map(ColumnDefinition::type)).contains(LogicalType.varchar(300));
        assertThat(result.findings())
                .anyMatch(f -> f.column().equals("note")
                        && f.text().contains("MariaDB has no room for CHARACTER LARGE OBJECT in a key"));
        // what is longer is refused by name, and nothing is left of the load
        Databases.run(postgres, "INSERT INTO leaf VALUES (repeat('m', 900), 'fern', 'x', 2)");
        assertThatThrownBy(() -> move(postgres, maria, LoadMode.REPLACE))
                .hasMessageContaining("column code")
                .hasMessageContaining("768");
        assertThat(Databases.rows(maria, "SELECT COUNT(*) FROM leaf")).containsExactly("2");
    }
}
