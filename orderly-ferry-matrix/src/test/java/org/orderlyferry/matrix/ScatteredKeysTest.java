package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.TestSystem;

/** Crossings of tables whose keys' values were drawn by lot: how they are cut is decided by what the target does with keys. */
class ScatteredKeysTest extends CrossingCase {

    @ParameterizedTest
    @CsvSource({"POSTGRESQL, ctid", "SQLITE, id"})
    void tablesAreCutByBlocksForATargetThatKeepsNoOrder(TestSystem system, String by) throws Exception {
        assumeThat(TestSystem.names()).contains("PostgreSQL");
        String from = TestSystem.POSTGRESQL.fresh(folder);
        String to = system.fresh(folder);
        run(
                from,
                "create table sheet (id uuid primary key, leaf text)",
                "insert into sheet select gen_random_uuid(), 'leaf ' || n from generate_series(1, 2000) n",
                "create table label (line text, number integer)",
                "insert into label select 'line ' || n % 7, n from generate_series(1, 2000) n",
                "analyze");
        // no table of PostgreSQL can have a column of that name, but others' can
        String name = system == TestSystem.SQLITE ? "ctid" : "row";
        Path file = draft(
                "scattered-" + system,
                from,
                to,
                "slice-rows: \\d+",
                "slice-rows: 200",
                "\\{ to: line",
                "{ to: " + name);
        assertThat(must(0, "check", file).out())
                .containsPattern("sheet +sheet +2,000 .* slices by " + by)
                .containsPattern("label +label +2,000 .* slices by ctid");
        must(0, "run", file);
        try (Place source = Places.open(from);
                Place target = Places.open(to)) {
            assertThat(Reconcile.between(source, target)
                            .tables("sheet")
                            .compare()
                            .isEqual())
                    .isTrue();
            assertThat(target.define(TableName.of("label")).columnNames()).isEqualTo(List.of(name, "number"));
            assertThat(target.count(TableName.of("label"))).isEqualTo(2_000);
        }
    }
}
