package org.orderlyferry.reconcile;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Slice;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.tally.ComparisonForm;
import org.orderlyferry.tally.TallyTaker;
import org.orderlyferry.testkit.doubles.ListedPlace;

/** Digests of both sides in many parts, and records that are too large to be held all at once. */
class RowSearchTest {

    private static final TableDefinition TABLE = TableDefinition.named("sheet")
            .column("no", LogicalType.BIGINT)
            .column("note", LogicalType.CLOB)
            .build();

    private static final RowKey KEY = new RowKey(List.of("no"), new int[] {0}, true);

    private static void see(RowEntries entries, Map<Integer, Integer> rows, int slices) {
        for (int slice = 0; slice < slices; slice++) {
            RowEntries.Attempt attempt = entries.attempt(Slice.whole(TABLE));
            TallyTaker taker = new TallyTaker(
                            List.of("no", "note"), List.of(ComparisonForm.NUMBER, ComparisonForm.EXACT))
                    .keyed(0)
                    .witness(attempt);
            RecordBatch batch = new RecordBatch();
            batch.start(2, "sheet", "test", false);
            int number = 0;
            for (Map.Entry<Integer, Integer> row : rows.entrySet()) {
                if (number++ % slices == slice) {
                    batch.add(row.getKey());
                    batch.add("value " + row.getValue());
                    batch.endRow(number);
                }
            }
            taker.add(batch);
            attempt.done();
        }
    }

    @Property(tries = 30)
    void whatDiffersIsFoundInWhateverPartItIs(
            @ForAll @IntRange(min = 1, max = 9000) int size,
            @ForAll @IntRange(max = 7) int partsOf,
            @ForAll @IntRange(min = 1, max = 4) int slices,
            @ForAll long seed) {
        Random random = new Random(seed);
        Map<Integer, Integer> source = new HashMap<>();
        Map<Integer, Integer> target = new HashMap<>();
        long missing = 0;
        long extra = 0;
        long different = 0;
        for (int no = 0; no < size; no++) {
            int what = random.nextInt(40);
            if (what != 1) {
                source.put(no, 0);
            }
            if (what != 2) {
                target.put(no, what == 3 ? 1 : 0);
            }
            extra += what == 1 ? 1 : 0;
            missing += what == 2 ? 1 : 0;
            different += what == 3 ? 1 : 0;
        }
        try (EntryStore store = EntryStore.temporary()) {
            RowEntries one = new RowEntries(store, KEY, 128, 1 << partsOf);
            RowEntries other = new RowEntries(store, KEY, 128, 1 << partsOf);
            see(one, source, slices);
            see(other, target, 1);
            int[] told = {0};
            RowCounts counts = new RowSearch(List.of(one), other, new StopSignal()).run(keys -> {
                told[0] += keys.size();
                assertThat(keys.first(3).size()).isEqualTo(Math.min(3, keys.size()));
            });
            assertThat(counts).isEqualTo(new RowCounts(missing, extra, different));
            assertThat(told[0]).isEqualTo((int) counts.all());
        }
    }

    /** Once all are known to be large, and once the first ones aren't, of which their number is guessed. */
    @ParameterizedTest
    @ValueSource(ints = {0, 3})
    void recordsThatAreTooLargeToBeHeldAtOnceAreReadInRounds(int small) {
        TableDefinition large = TABLE.toBuilder()
                .columns(List.of(
                        ColumnDefinition.named("no", LogicalType.BIGINT)
                                .nullable(false)
                                .build(),
                        ColumnDefinition.named("note", LogicalType.CLOB).build()))
                .primaryKey("no")
                .build();
        String text = "x".repeat(1 << 20);
        List<List<String>> source = new java.util.ArrayList<>();
        List<List<String>> target = new java.util.ArrayList<>();
        for (int no = 0; no < 60; no++) {
            String value = no < small ? "" : text;
            source.add(List.of("" + no, value + "s"));
            if (no % 10 != 0) {
                target.add(List.of("" + no, value + "t"));
            }
        }
        target.add(List.of("77", text));
        Map<String, RowDifference.Kind> found = new HashMap<>();
        ReconcileResult result = Reconcile.between(
                        new ListedPlace().with(large, source), new ListedPlace().with(large, target))
                .depth(Depth.ROWS)
                .differences(
                        d -> assertThat(found.put(d.any().text(0), d.kind())).isNull(), 1000)
                .compare();
        assertThat(result.tables().get(0).rows()).hasValue(new RowCounts(6, 1, 54));
        assertThat(found)
                .hasSize(61)
                .containsEntry("10", RowDifference.Kind.MISSING)
                .containsEntry("77", RowDifference.Kind.EXTRA);
        assertThat(result.findings()).isEmpty();
    }
}
