package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.KeySample;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

/** Comparing a sample: the same records on both sides, whoever leaves the others out, and never more than it shows. */
class SampledComparisonTest {

    private static final int ROWS = 6_000;
    private static final BigDecimal PERCENT = new BigDecimal("7.5");
    private static final int SHARE = 750;

    @TempDir
    private Path folder;

    static Stream<String> systems() {
        return TestSystem.names();
    }

    private static TableDefinition table(LogicalType key) {
        return TableDefinition.named("sheet")
                .column(ColumnDefinition.named("id", key).nullable(false).build())
                .column("note", LogicalType.varchar(40))
                .primaryKey("id")
                .build();
    }

    /** Keys in large steps on both sides of zero. */
    private static long key(int row) {
        return (row - ROWS / 2) * 1_000_000_007L;
    }

    private static ListedPlace records(LogicalType type, boolean changed) {
        List<List<String>> rows = new ArrayList<>();
        for (int row = 0; row < ROWS; row++) {
            rows.add(List.of(String.valueOf(key(row)), changed && row % 50 == 3 ? "otherwise" : "note " + row));
        }
        return new ListedPlace().with(table(type), rows);
    }

    private String filled(String system, ListedPlace records) {
        String url = TestSystem.of(system).fresh(folder);
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(records).into(target);
        }
        return url;
    }

    private static ReconcileResult compared(Place one, Place other, Set<Long> found) {
        return Reconcile.between(one, other)
                .depth(Depth.ROWS)
                .sample(PERCENT)
                .differences(d -> found.add(Long.valueOf(d.any().text(0))), Long.MAX_VALUE)
                .compare();
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("systems")
    void serversLeaveOutWhatIsInNoSample(String system) {
        KeySample sample = new KeySample("id", SHARE);
        Set<Long> expected = new TreeSet<>();
        long in = 0;
        for (int row = 0; row < ROWS; row++) {
            in += sample.has(key(row)) ? 1 : 0;
            if (row % 50 == 3 && sample.has(key(row))) {
                expected.add(key(row));
            }
        }
        // the sample is about as large as it was asked for
        assertThat(in).isBetween(ROWS * SHARE / 14_000L, ROWS * SHARE / 7_000L);
        String changed = filled(system, records(LogicalType.BIGINT, true));
        try (Place target = Places.open(changed)) {
            Set<Long> found = new TreeSet<>();
            ReconcileResult result = compared(records(LogicalType.BIGINT, false), target, found);
            assertThat(found).isEqualTo(expected);
            assertThat(result.sample().orElseThrow().rows()).isEqualTo(in);
            assertThat(result.sample().orElseThrow().all()).isEqualTo(ROWS);
            assertThat(result.tables().get(0).targetRows()).hasValue(ROWS);
        }
        String same = filled(system, records(LogicalType.BIGINT, false));
        try (Place source = Places.open(same);
                Place target = records(LogicalType.BIGINT, false)) {
            ReconcileResult result = compared(source, target, new TreeSet<>());
            assertThat(result.isWithoutDifference()).isTrue();
            assertThat(result.isEqual()).isFalse();
        }
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("systems")
    void otherKeysArePickedByTheSameHashOnBothSides(String system) {
        String changed = filled(system, records(LogicalType.varchar(30), true));
        try (Place target = Places.open(changed)) {
            Set<Long> found = new TreeSet<>();
            ReconcileResult result = compared(records(LogicalType.varchar(30), false), target, found);
            assertThat(result.sample().orElseThrow().rows()).isBetween(ROWS * SHARE / 14_000L, ROWS * SHARE / 7_000L);
            assertThat(result.tables().get(0).rows().orElseThrow())
                    .satisfies(r -> assertThat(r.missing() + r.extra()).isZero())
                    .satisfies(r -> assertThat(r.different()).isEqualTo(found.size()));
            assertThat(found).isNotEmpty();
        }
    }

    @Test
    void aSampleThatLacksARecordOfAllIsNotAlike() {
        List<List<String>> one = List.of(List.of("1", "a"), List.of("2", "b"));
        ListedPlace source = new ListedPlace().with(table(LogicalType.BIGINT), one);
        ListedPlace target = new ListedPlace().with(table(LogicalType.BIGINT), one.subList(0, 1));
        ReconcileResult result =
                Reconcile.between(source, target).sample(new BigDecimal("0.01")).compare();
        assertThat(result.isWithoutDifference()).isFalse();
    }

    @Test
    void aTableWithoutAPartnerIsNoneThatWasCompared() {
        ListedPlace source = records(LogicalType.BIGINT, false)
                .with(
                        TableDefinition.named("alone")
                                .column("x", LogicalType.INTEGER)
                                .build(),
                        List.of(List.of("1"), List.of("2")));
        ReconcileResult result = compared(source, records(LogicalType.BIGINT, false), new TreeSet<>());
        assertThat(result.isWithoutDifference()).isFalse();
        assertThat(result.sample().orElseThrow().all()).isEqualTo(ROWS + 2);
        ReconcileResult bare =
                compared(records(LogicalType.BIGINT, false), records(LogicalType.BIGINT, false), new TreeSet<>());
        assertThat(result.sample().orElseThrow().rows())
                .isEqualTo(bare.sample().orElseThrow().rows());
    }

    @Test
    void whatIsNoShareIsRefused() {
        Reconcile reconcile = Reconcile.between(new ListedPlace(), new ListedPlace());
        for (String percent : List.of("0", "100", "-1", "0.001", "1e9")) {
            assertThatThrownBy(() -> reconcile.sample(new BigDecimal(percent))).isInstanceOf(UsageException.class);
        }
    }
}
