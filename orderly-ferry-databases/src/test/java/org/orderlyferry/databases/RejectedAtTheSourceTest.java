package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.reshape.Reshaping;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Records of a database with values that no other system has: each is rejected with its reason, and the others go on. */
class RejectedAtTheSourceTest {

    private static final int MANY = 3_000;

    @TempDir
    Path folder;

    private String source(String system) throws Exception {
        if (system.equals("PostgreSQL")) {
            String url = Servers.newPostgres();
            // the key stands behind what can't travel
            Databases.run(
                    url,
                    "CREATE TABLE seen (n NUMERIC, d DATE, id INTEGER PRIMARY KEY)",
                    "INSERT INTO seen SELECT i, '2031-04-09', i FROM generate_series(1, " + MANY + ") i",
                    "UPDATE seen SET n = 'NaN', d = 'infinity' WHERE id IN (7, 2999)",
                    "UPDATE seen SET d = '-infinity' WHERE id = 8");
            return url;
        }
        String url = Servers.newMaria();
        Databases.run(
                url,
                "CREATE TABLE seen (n TIME, d DATE, id INTEGER PRIMARY KEY)",
                "INSERT INTO seen SELECT '10:00:00', '2031-04-09', seq FROM seq_1_to_" + MANY,
                "UPDATE seen SET n = '-838:59:59', d = NULL WHERE id IN (7, 2999)",
                "UPDATE seen SET n = '24:00:00' WHERE id = 8");
        return url;
    }

    @ParameterizedTest
    @ValueSource(strings = {"PostgreSQL", "MariaDB"})
    void eachIsKeptWithItsReason(String system) throws Exception {
        String from = source(system);
        List<String> heard = new ArrayList<>();
        String to = TestSystem.SQLITE.fresh(folder);
        try (Place place = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            TransferResult result =
                    Load.from(place).rejects(why -> heard.add(why.getMessage())).into(target);
            assertThat(result.rejected()).isEqualTo(3);
            assertThat(result.rows()).isEqualTo(MANY - 3);
        }
        assertThat(heard)
                .hasSize(3)
                .allMatch(h -> h.contains("could hold"))
                .anyMatch(h -> h.contains("(id = 7), column n: "))
                .anyMatch(h -> h.contains("(id = 8), column "))
                .anyMatch(h -> h.contains("(id = 2999), column n: "));
        assertThat(Databases.rows(to, "SELECT count(*), min(id), max(id), sum(id IN (7, 8, 2999)) FROM seen"))
                .containsExactly((MANY - 3) + " 1 " + MANY + " 0");
    }

    @Test
    void soAreThoseOfAQuery() throws Exception {
        String from = source("PostgreSQL");
        List<String> heard = new ArrayList<>();
        try (Place place = Places.open(from)) {
            TransferResult result = Export.from(place)
                    .query("asked", "SELECT id, n FROM seen")
                    .rejects(why -> heard.add(why.getMessage()))
                    .to(folder.resolve("set"));
            assertThat(result.rejected()).isEqualTo(2);
            assertThat(result.rows()).isEqualTo(MANY - 2);
            assertThat(heard).hasSize(2).allMatch(h -> h.contains("column n: 'NaN'"));
            assertThatThrownBy(() -> Export.from(place).to(folder.resolve("stopped")))
                    .isInstanceOf(BadValueException.class)
                    .hasMessageContaining("could hold");
        }
    }

    /** Where a null is wanted in a value's place, the record comes. */
    @Test
    void whatMayBeNullIsNotRejected() throws Exception {
        String from = source("PostgreSQL");
        OpenOptions options = OpenOptions.builder().outOfRange(OutOfRange.NULL).build();
        try (Place place = Places.open(PlaceAddress.of(from), options);
                TargetPlace target = Places.openTarget(TestSystem.H2.fresh(folder))) {
            TransferResult result = Load.from(place)
                    .rejects(why -> {
                        throw why;
                    })
                    .into(target);
            assertThat(result.rows()).isEqualTo(MANY);
            assertThat(result.findings()).extracting(f -> f.text()).anyMatch(t -> t.contains("became null"));
        }
    }

    /** What a condition leaves out is counted apart from it, also where the server leaves it out. */
    @ParameterizedTest
    @ValueSource(strings = {"id > 5", "id > 2000", "n IS NOT NULL OR id > 5"})
    void whatIsRejectedIsNotLeftOut(String condition) throws Exception {
        String from = source("PostgreSQL");
        List<String> heard = new ArrayList<>();
        try (Place place = Places.open(from);
                TargetPlace target = Places.openTarget(TestSystem.SQLITE.fresh(folder))) {
            Rejects hearing = why -> heard.add(why.getMessage());
            Place some = new Reshaping().where(condition).over(place, hearing);
            TransferResult result = Load.from(some).rejects(hearing).into(target);
            assertThat(result.addsUp()).isTrue();
            assertThat(result.rejected()).isEqualTo(heard.size()).isBetween(1L, 3L);
            assertThat(result.rows() + result.rejected() + result.leftOut()).isEqualTo(MANY);
            long below = condition.startsWith("id > ") ? Long.parseLong(condition.substring(5)) : 0;
            assertThat(result.leftOut()).isEqualTo(below);
        }
    }
}
