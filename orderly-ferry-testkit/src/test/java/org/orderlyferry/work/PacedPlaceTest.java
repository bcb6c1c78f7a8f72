package org.orderlyferry.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.testkit.doubles.ListedPlace;

class PacedPlaceTest {

    private static final int ROWS = 60;

    private static final TableDefinition LABEL = TableDefinition.named("label")
            .column(ColumnDefinition.of("note", LogicalType.varchar(20)))
            .build();

    private static ListedPlace place() {
        return new ListedPlace()
                .with(
                        LABEL,
                        IntStream.range(0, ROWS)
                                .mapToObj(i -> List.of("moss " + i))
                                .toList());
    }

    /** How many records a reader gives, which is closed then. */
    private static long count(RecordReader reader) {
        long rows = 0;
        RecordBatch batch = new RecordBatch();
        try (reader) {
            while (reader.read(batch)) {
                rows += batch.rows();
            }
        }
        return rows;
    }

    /** Each way of reading takes its time, by records and by bytes, and none of them loses a record. */
    @Test
    void allReadingTakesItsTime() {
        for (long[] pace : new long[][] {{200, 0}, {0, 1_500}}) {
            try (Place paced = PacedPlace.of(place(), pace[0], pace[1])) {
                Slice all = Slice.whole(LABEL);
                long began = System.nanoTime();
                assertThat(count(paced.read(all))).isEqualTo(ROWS);
                assertThat(count(paced.read(all, Rejects.STOP))).isEqualTo(ROWS);
                assertThat(TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - began))
                        .isGreaterThanOrEqualTo(500);
            }
        }
    }

    /** Several ways into a place have one pace together. */
    @Test
    void companionsShareIt() {
        try (Place paced = PacedPlace.of(place(), 200, 0)) {
            List<Place> all = new ArrayList<>(paced.companions(3).places());
            assertThat(all).isNotEmpty();
            all.add(paced);
            long began = System.nanoTime();
            all.parallelStream()
                    .forEach(p -> assertThat(count(p.read(Slice.whole(LABEL)))).isEqualTo(ROWS));
            assertThat(TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - began))
                    .isGreaterThanOrEqualTo(all.size() * 250L);
        }
    }

    @Test
    void whoWaitsIsStoppedAtOnce() throws Exception {
        Place paced = PacedPlace.of(place(), 1, 0);
        CompletableFuture<Long> reading = CompletableFuture.supplyAsync(() -> count(paced.read(Slice.whole(LABEL))));
        Thread.sleep(50);
        paced.cancel();
        assertThatThrownBy(() -> reading.get(10, TimeUnit.SECONDS)).hasCauseInstanceOf(StoppedException.class);
    }

    @Test
    void withoutOneThePlaceIsAsItWas() {
        Place bare = place();
        assertThat(PacedPlace.of(bare, 0, 0)).isSameAs(bare);
    }
}
