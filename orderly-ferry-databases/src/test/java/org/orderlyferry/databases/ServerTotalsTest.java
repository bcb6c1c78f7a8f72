package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.ServerTotal;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.ComparedTotals;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.testkit.generated.GeneratedRows;
import org.orderlyferry.testkit.generated.GeneratedTables;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

/** Control totals by a server's own SQL come to what is computed from the values; where they don't, both ends differ. */
class ServerTotalsTest {

    @TempDir
    private Path folder;

    static Stream<Arguments> systemsAndSeeds() {
        return TestSystem.names().flatMap(system -> LongStream.range(0, Integer.getInteger("ferry.definitions", 2))
                .mapToObj(seed -> Arguments.of(system, Long.getLong("ferry.seed", 7) * 1_000 + seed)));
    }

    private String filled(String system, long seed) {
        String url = TestSystem.of(system).fresh(folder);
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(new GeneratedRows(seed).fill(new GeneratedTables(seed).some(5), 60))
                    .into(target);
        }
        return url;
    }

    @ParameterizedTest(name = "{0}, {1}")
    @MethodSource("systemsAndSeeds")
    void serversComeToTheSame(String system, long seed) {
        String url = filled(system, seed);
        try (Place one = Places.open(url);
                Place other = Places.open(url)) {
            ReconcileResult result =
                    Reconcile.between(one, other).serverTotals(true).compare();
            assertThat(result.findings()).isEmpty();
            List<ComparedTotals> totals =
                    result.tables().stream().flatMap(t -> t.totals().stream()).toList();
            assertThat(totals).isNotEmpty().allSatisfy(t -> {
                assertThat(t.sourceConfirmed()).contains(true);
                assertThat(t.targetConfirmed()).contains(true);
            });
            assertThat(result.isEqual()).isTrue();
        }
    }

    /** A server that counts one value too many of each column. */
    private static final class Liar extends ForwardingPlace {
        Liar(Place place) {
            super(place);
        }

        @Override
        public Optional<List<ServerTotal>> totals(TableName table) {
            return super.totals(table).map(all -> {
                List<ServerTotal> wrong = new ArrayList<>();
                all.forEach(t -> wrong.add(new ServerTotal(
                        t.column(), t.values() + 1, t.nulls(), t.smallest(), t.largest(), t.sum(), t.length())));
                return wrong;
            });
        }
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("systems")
    void whereTheyDontBothEndsDiffer(String system) {
        String url = filled(system, 3);
        try (Place one = Places.open(url);
                Place other = new Liar(Places.open(url))) {
            ReconcileResult result =
                    Reconcile.between(one, other).serverTotals(true).compare();
            assertThat(result.isEqual()).isFalse();
            assertThat(result.findings()).isNotEmpty().allSatisfy(f -> {
                assertThat(f.code()).isEqualTo(FindingCode.TOTAL_UNLIKE);
                assertThat(f.text()).contains("its own SQL counts");
            });
        }
    }

    static Stream<String> systems() {
        return TestSystem.names();
    }
}
