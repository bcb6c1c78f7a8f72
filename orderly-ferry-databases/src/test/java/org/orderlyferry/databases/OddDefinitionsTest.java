package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What one system defines and most others don't: the table comes all the same, and what is otherwise is told. */
class OddDefinitionsTest {

    @TempDir
    Path folder;

    private static TableDefinition table(Place place) {
        return place.define(place.tables().get(0));
    }

    /** SQLite's keys may hold nulls, by an old mistake that it keeps; a server says so at the end, and of no record. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.databases.AllTargets#names")
    void aNullInAKeyIsARejectedRecord(String system) throws Exception {
        String from = TestSystem.SQLITE.fresh(folder);
        Databases.run(
                from,
                "CREATE TABLE bed (code VARCHAR(20) PRIMARY KEY, place INTEGER)",
                "INSERT INTO bed VALUES ('a', 1), (NULL, 2), ('b', 3), (NULL, 4)");
        List<String> heard = new ArrayList<>();
        String to = AllTargets.fresh(system, folder);
        try (Place source = Places.open(from)) {
            TransferResult result;
            try (TargetPlace target = Places.openTarget(to)) {
                result = Load.from(source)
                        .rejects(why -> heard.add(why.getMessage()))
                        .into(target);
            }
            boolean holds = system.equals("SQLite");
            assertThat(result.rows()).isEqualTo(holds ? 4 : 2);
            assertThat(heard).hasSize(holds ? 0 : 2).allMatch(h -> h.contains("column code: null"));
        }
    }

    /** More digits behind the point than in all, texts of no length, labels of nothing, counters beside each other. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.databases.AllTargets#names")
    void sizesAndCountersThatFewHave(String system) throws Exception {
        String from = Servers.newPostgres();
        Databases.run(
                from,
                "CREATE TYPE mood AS ENUM ('', 'dry', 'Dry')",
                "CREATE TABLE bed (a SERIAL, b SERIAL, id INTEGER PRIMARY KEY, small NUMERIC(3, 5), soil mood NOT NULL,"
                        + " CHECK (small < 0.005), dug DATE CHECK (dug > '2000-01-01'), note TEXT CHECK (note <> 'no'))",
                "INSERT INTO bed (id, small, soil, dug, note) VALUES (1, 0.00123, 'dry', '2031-04-09', 'x'), (2, -0.00999, 'Dry', NULL, NULL)");
        String to = AllTargets.fresh(system, folder);
        try (Place source = Places.open(from)) {
            TransferResult result;
            try (TargetPlace target = Places.openTarget(to)) {
                result = Load.from(source).into(target);
            }
            assertThat(result.rows()).isEqualTo(2);
            try (Place there = Places.open(to)) {
                assertThat(Reconcile.between(source, there).compare().isEqual()).isTrue();
                long counters = table(there).columns().stream()
                        .filter(c -> c.identity().isPresent())
                        .count();
                long left = result.leftBehind().stream()
                        .filter(l -> l.kind().equals("identity"))
                        .count();
                assertThat(counters + left).isEqualTo(2);
            }
        }
    }

    /** A unique index of texts' beginnings forbids more than one of whole texts. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.databases.AllTargets#names")
    void anIndexOfBeginningsIsOne(String system) throws Exception {
        String from = Servers.newMaria();
        Databases.run(
                from,
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, none CHAR(0), bytes BINARY(0), code VARCHAR(100),"
                        + " UNIQUE begins (code(3)), KEY slow (code(5)))",
                "INSERT INTO bed VALUES (1, '', '', 'abcdef'), (2, NULL, NULL, 'xyz')");
        String to = AllTargets.fresh(system, folder);
        try (Place source = Places.open(from)) {
            assertThat(table(source).indexes())
                    .anyMatch(i -> i.unique() && i.parts().get(0).prefix() == 3);
            TransferResult result;
            List<String> heard = new ArrayList<>();
            try (TargetPlace target = Places.openTarget(to)) {
                result = Load.from(source)
                        .rejects(why -> heard.add(why.getMessage()))
                        .into(target);
            }
            // an empty text is a null to Oracle, and refused by name
            assertThat(heard).hasSize(system.equals("Oracle") ? 1 : 0);
            List<String> told =
                    result.leftBehind().stream().map(LeftBehind::toString).toList();
            try (Place there = Places.open(to)) {
                assertThat(table(there).columnNames()).hasSize(4);
                boolean begins = table(there).indexes().stream()
                        .anyMatch(i -> i.unique() && i.parts().get(0).prefix() == 3);
                boolean says = told.stream().anyMatch(l -> l.contains("the first 3 of code"));
                assertThat(begins)
                        .as("%s", told)
                        .isEqualTo(system.equals("MariaDB"))
                        .isNotEqualTo(says);
                assertThat(Stream.concat(
                                        table(there).indexes().stream()
                                                .filter(i -> i.unique())
                                                .map(i -> i.columns()),
                                        table(there).uniqueKeys().stream().map(k -> k.columns()))
                                .map(c -> c.get(0).toLowerCase(Locale.ROOT)))
                        .contains("code");
            }
        }
    }

    /** Derby has neither ISO SQL's dates nor its lengths in checks, and compares no large objects. */
    @Test
    void checksInDerbysWords() throws Exception {
        String from = TestSystem.H2.fresh(folder);
        Databases.run(
                from,
                "CREATE TABLE \"bed\" (\"id\" INTEGER PRIMARY KEY, \"dug\" DATE CHECK (\"dug\" > DATE '2000-01-01'),"
                        + " \"code\" VARCHAR(20) CHECK (CHAR_LENGTH(\"code\") > 2), \"note\" CLOB CHECK (\"note\" <> 'no'))",
                "INSERT INTO \"bed\" VALUES (1, DATE '2031-04-09', 'abc', 'x')");
        String to = AllTargets.fresh("Derby", folder);
        try (Place source = Places.open(from)) {
            TransferResult result;
            try (TargetPlace target = Places.openTarget(to)) {
                result = Load.from(source).into(target);
            }
            assertThat(result.leftBehind())
                    .filteredOn(l -> l.kind().equals("check"))
                    .hasSize(1)
                    .allMatch(l -> l.reason().contains("note"));
        }
        org.assertj.core.api.Assertions.assertThatThrownBy(
                        () -> Databases.run(to, "INSERT INTO \"bed\" VALUES (2, DATE('1999-01-01'), 'abc', 'x')"))
                .isInstanceOf(java.sql.SQLException.class);
    }

    /** An interval holds two digits of its first field, and six of a second's, where it doesn't say more. */
    @Test
    void intervalsOfH2KeepTheirDigits() throws Exception {
        String from = TestSystem.H2.fresh(folder);
        String to = TestSystem.H2.fresh(folder);
        List<String> forms = List.of(
                "YEAR(4)",
                "MONTH(5)",
                "DAY(7)",
                "HOUR(6)",
                "MINUTE(8)",
                "SECOND(9, 9)",
                "YEAR(6) TO MONTH",
                "DAY(5) TO HOUR",
                "DAY(5) TO MINUTE",
                "DAY(5) TO SECOND(9)",
                "HOUR(4) TO MINUTE",
                "HOUR(4) TO SECOND(3)",
                "MINUTE(4) TO SECOND(0)");
        List<String> columns = new ArrayList<>();
        for (int i = 0; i < forms.size(); i++) {
            columns.add("c" + i + " INTERVAL " + forms.get(i));
        }
        Databases.run(
                from,
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, " + String.join(", ", columns) + ", d DECFLOAT(10))",
                "INSERT INTO bed (id, c0, c5, c9) VALUES (1, INTERVAL '9999' YEAR, INTERVAL '123456789.123456789' SECOND,"
                        + " INTERVAL '12345 01:02:03.123456789' DAY TO SECOND)");
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            Load.from(source).into(target);
            try (Place there = Places.open(to)) {
                assertThat(Reconcile.between(source, there).compare().isEqual()).isTrue();
                for (int i = 0; i < forms.size(); i++) {
                    assertThat(table(there).columns().get(i + 1).sourceType()).isEqualTo("INTERVAL " + forms.get(i));
                }
            }
        }
    }

    /** A power of ten is a few bytes, and its digits would fill the memory; and what is no number is none elsewhere. */
    @Test
    void numbersThatNobodyCouldHoldAreRejected() throws Exception {
        String from = TestSystem.H2.fresh(folder);
        Databases.run(
                from,
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, d DECFLOAT)",
                "INSERT INTO bed VALUES (1, 1E1000000000), (2, 'NaN'), (3, '-Infinity'), (4, 1E300), (5, 1E-2000000000)");
        List<String> heard = new ArrayList<>();
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(TestSystem.SQLITE.fresh(folder))) {
            TransferResult result = Load.from(source)
                    .rejects(why -> heard.add(why.getMessage()))
                    .into(target);
            assertThat(result.rows()).isEqualTo(1);
        }
        assertThat(heard)
                .hasSize(4)
                .anyMatch(h -> h.contains("(ID = 1)") && h.contains("more digits than"))
                .anyMatch(h -> h.contains("(ID = 5)") && h.contains("more digits than"))
                .anyMatch(h -> h.contains("(ID = 2), column D: 'NaN'"))
                .anyMatch(h -> h.contains("(ID = 3), column D: '-Infinity'"));
    }

    /** MariaDB computes nothing from a counter, nor, if it stores it, from what a reference changes. */
    @Test
    void whatIsComputedFromACounterComesWithoutItsRule() throws Exception {
        String from = TestSystem.H2.fresh(folder);
        Databases.run(
                from,
                "CREATE TABLE bed (id INTEGER GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY, next INTEGER GENERATED ALWAYS AS (id + 1),"
                        + " above INTEGER REFERENCES bed (id) ON DELETE SET NULL, twice INTEGER GENERATED ALWAYS AS (above + above),"
                        + " n INTEGER, more INTEGER GENERATED ALWAYS AS (n + 1))",
                "INSERT INTO bed (above, n) VALUES (NULL, 1), (1, 2)");
        String to = TestSystem.MARIADB.fresh(folder);
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            assertThat(Load.from(source).into(target).leftBehind())
                    .filteredOn(l -> l.kind().equals("generation rule"))
                    .extracting(l -> l.name().toLowerCase(Locale.ROOT))
                    .containsExactlyInAnyOrder("bed.next", "bed.twice");
            try (Place there = Places.open(to)) {
                assertThat(Reconcile.between(source, there).compare().isEqual()).isTrue();
            }
        }
    }
}
