package org.orderlyferry.testkit.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.tally.TallyTaker;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.doubles.Samples;

/** What every {@link Place} keeps: it gives all of its records, each once, however they are asked for. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
public abstract class PlaceContract {

    private static final int ROWS = 23;

    private Path folder;

    private final Map<String, String> filled = new HashMap<>();

    /** Kinds of places; see {@link #fill}. */
    protected abstract Stream<Ends> ends();

    /** Fills a place of a kind that is fresh with all that another one has; its address is read from then on. */
    protected abstract void fill(Ends ends, String address, ListedPlace truth);

    private static ListedPlace truth() {
        return Samples.labels(ROWS);
    }

    @BeforeAll
    void takeAFolder(@TempDir Path given) {
        folder = given;
    }

    private Place open(Ends ends) {
        return Places.open(filled.computeIfAbsent(ends.name(), n -> {
            String address = ends.fresh().apply(folder);
            fill(ends, address, truth());
            return address;
        }));
    }

    /** The table, under the name that the place has for it. */
    private static TableName label(Place place) {
        assertThat(place.tables()).hasSize(1);
        return place.tables().get(0);
    }

    private static List<String> all() {
        return Contents.sorted(truth().rows(Samples.label()), Samples.LABEL);
    }

    private static List<String> read(Place place, List<Slice> slices) {
        List<List<String>> rows = new ArrayList<>();
        slices.forEach(s -> rows.addAll(Contents.of(place.read(s))));
        return Contents.sorted(rows, Samples.LABEL);
    }

    @ParameterizedTest
    @MethodSource("ends")
    void itGivesAllRecordsEachOnce(Ends ends) {
        try (Place place = open(ends)) {
            assertThat(Contents.sorted(place, label(place), Samples.LABEL)).isEqualTo(all());
            // and again
            assertThat(Contents.sorted(place, label(place), Samples.LABEL)).isEqualTo(all());
            assertThat(place.count(label(place))).isEqualTo(ROWS);
            assertThat(place.estimate(label(place))).isNotNegative();
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void itSaysWhatItIs(Ends ends) {
        try (Place place = open(ends)) {
            assertThat(place.address()).isNotBlank();
            assertThat(place.system()).isNotBlank();
            assertThat(place.define(label(place)).columnNames()).hasSameSizeAs(Samples.LABEL.columnNames());
            assertThat(place.leftBehind()).isNotNull();
            place.verify();
            place.check(place.define(label(place)));
            place.cancel();
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void theValuesCountedAreTheValuesGiven(Ends ends) {
        try (Place place = open(ends)) {
            TableDefinition table = place.define(label(place));
            TallyTaker there = TallyTaker.of(Samples.LABEL.columns());
            TallyTaker here = TallyTaker.of(Samples.LABEL.columns());
            take(place.read(Slice.whole(table)), there);
            take(truth().read(Slice.whole(Samples.LABEL)), here);
            if (table.columns().stream()
                    .map(c -> c.type().name())
                    .toList()
                    .equals(Samples.LABEL.columns().stream()
                            .map(c -> c.type().name())
                            .toList())) {
                assertThat(there.tally()).isEqualTo(here.tally());
            }
            place.keptTally(label(place))
                    .ifPresent(kept -> assertThat(kept.rows()).isEqualTo(ROWS));
        }
    }

    private static void take(RecordReader reader, TallyTaker taker) {
        RecordBatch batch = new RecordBatch();
        try (reader) {
            while (reader.read(batch)) {
                taker.add(batch);
            }
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void itGivesTheColumnsThatAreAskedForInTheirOrder(Ends ends) {
        try (Place place = open(ends)) {
            List<String> names = place.define(label(place)).columnNames();
            for (List<Integer> wanted : List.of(List.of(3, 1), List.of(1), List.of(8, 0), List.of(0, 2, 4))) {
                List<String> columns = wanted.stream().map(names::get).toList();
                List<List<String>> truth = truth().rows(Samples.label()).stream()
                        .map(r -> wanted.stream().map(r::get).toList())
                        .toList();
                TableDefinition some = Samples.LABEL.withColumns(
                        wanted.stream().map(Samples.LABEL.columnNames()::get).toList());
                RecordReader reader = place.read(new Slice(label(place), columns));
                assertThat(reader.table().columnNames()).isEqualTo(columns);
                assertThat(Contents.sorted(Contents.of(reader), some)).isEqualTo(Contents.sorted(truth, some));
            }
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void howeverItIsCutEachRecordIsInOneSlice(Ends ends) {
        try (Place place = open(ends)) {
            TableDefinition table = place.define(label(place));
            for (long rows : List.of(1L, 2L, 7L, 22L, 23L, 24L, 1_000L)) {
                // also where the number of rows that is told is wrong
                for (long told : List.of((long) ROWS, 0L, 1_000_000L)) {
                    List<Slice> slices = place.cut(table, told, new Cut(rows, Map.of()));
                    assertThat(slices).isNotEmpty();
                    assertThat(read(place, slices)).as(rows + " of " + told).isEqualTo(all());
                }
            }
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void aRangeOfKeysIsReadAndNothingElse(Ends ends) {
        try (Place place = open(ends)) {
            TableDefinition table = place.define(label(place));
            String id = table.columnNames().get(0);
            for (int from = 0; from <= ROWS + 1; from += 6) {
                for (int to = from; to <= ROWS + 1; to += 5) {
                    KeyRange range = new KeyRange(
                            List.of(id), List.of(String.valueOf(from)), List.of(String.valueOf(to)), false);
                    int first = from;
                    int last = to;
                    List<List<String>> truth = truth().rows(Samples.label()).stream()
                            .filter(r -> Integer.parseInt(r.get(0)) >= first && Integer.parseInt(r.get(0)) < last)
                            .toList();
                    assertThat(read(place, List.of(Slice.whole(table).within(range))))
                            .as(range.toString())
                            .isEqualTo(Contents.sorted(truth, Samples.LABEL));
                }
            }
            assertThat(read(place, List.of(Slice.whole(table).within(KeyRange.nulls(id)))))
                    .isEmpty();
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void companionsSeeTheSame(Ends ends) {
        try (Place place = open(ends)) {
            Companions companions = place.companions(2);
            try {
                for (Place other : companions.places()) {
                    assertThat(Contents.sorted(other, label(place), Samples.LABEL))
                            .isEqualTo(all());
                }
            } finally {
                companions.places().forEach(Place::close);
            }
            assertThat(Contents.sorted(place, label(place), Samples.LABEL)).isEqualTo(all());
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void aReaderThatIsLeftEarlyDisturbsNobody(Ends ends) {
        try (Place place = open(ends)) {
            for (int i = 0; i < 3; i++) {
                try (RecordReader reader = place.read(Slice.whole(place.define(label(place))))) {
                    assertThat(reader.read(new RecordBatch())).isTrue();
                }
            }
            assertThat(Contents.sorted(place, label(place), Samples.LABEL)).isEqualTo(all());
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void whatIsNotThereIsSaidByName(Ends ends) {
        try (Place place = open(ends)) {
            TableName missing = TableName.of("herbal\u001b[31mist'\"--");
            assertThatThrownBy(() -> place.define(missing))
                    .isInstanceOf(FerryException.class)
                    .hasMessageContaining("herbal");
            assertThatThrownBy(() -> place.count(missing)).isInstanceOf(FerryException.class);
            // and it goes on
            assertThat(Contents.sorted(place, label(place), Samples.LABEL)).isEqualTo(all());
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void closingTwiceIsClosing(Ends ends) {
        Place place = open(ends);
        place.close();
        place.close();
        assertThat(Collections.singletonList(place)).hasSize(1);
    }
}
