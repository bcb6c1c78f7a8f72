package org.orderlyferry.documents.mongodb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import de.bwaldvogel.mongo.bson.Document;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.bson.BsonDocument;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.testkit.doubles.ListedPlace;

/** Loads of documents that fail, are killed, cancelled, or meet others: all or nothing is there afterwards. */
class UndoneDocumentsTest extends DocumentLoadCase {

    @ParameterizedTest
    @EnumSource(LoadMode.class)
    void aLoadThatTheServerRefusesInTheMiddleOfItsPlacingWasNeverThere(LoadMode mode) {
        if (mode != LoadMode.CREATE) {
            load(sheets(1, 20, "old "), LoadMode.CREATE);
        }
        List<BsonDocument> before = documents("sheet");
        ListedPlace more = mode == LoadMode.APPEND ? sheets(20, 2_000, "new ") : sheets(10, 2_000, "new ");
        AtomicInteger writes = new AtomicInteger();
        PLAYED.failing(c -> mode == LoadMode.APPEND || mode == LoadMode.MERGE
                ? (c.containsKey("insert") || c.containsKey("update"))
                        && "sheet".equals(c.get(c.keySet().iterator().next()))
                        && writes.incrementAndGet() == 3
                : c.containsKey("renameCollection") && writes.incrementAndGet() == (mode == LoadMode.CREATE ? 1 : 2));
        try {
            assertThatThrownBy(() -> load(more, mode)).isInstanceOf(FerryException.class);
        } finally {
            PLAYED.failsNoMore();
        }
        assertThat(writes.get()).isPositive();
        assertThat(documents("sheet")).isEqualTo(before);
        assertThat(names()).allMatch(n -> n.equals("sheet"));
        load(more, mode);
        assertThat(collection("sheet").countDocuments()).isGreaterThan(1_900);
        assertThat(names()).containsExactly("sheet");
    }

    @ParameterizedTest
    @EnumSource(LoadMode.class)
    void whatAKilledLoadHasLeftIsPutRightByTheNext(LoadMode mode) {
        if (mode != LoadMode.CREATE) {
            load(sheets(1, 20, "old "), LoadMode.CREATE);
        }
        List<BsonDocument> before = documents("sheet");
        ListedPlace more = mode == LoadMode.APPEND ? sheets(20, 1_500, "new ") : sheets(10, 1_500, "new ");
        AtomicInteger writes = new AtomicInteger();
        // from some write on nothing comes through any more, so that nothing can be put back
        PLAYED.failing(c -> {
            String name = c.keySet().iterator().next();
            boolean write = List.of("insert", "update", "delete", "renameCollection", "drop")
                            .contains(name)
                    && !String.valueOf(c.get(name)).equals("ferry_load");
            boolean placing = name.equals("renameCollection") || "sheet".equals(c.get(name));
            return write && (writes.get() > 0 || placing) && writes.incrementAndGet() > 1;
        });
        try {
            Throwable thrown = catchThrowable(() -> load(more, mode));
            // once all is in its place, what can't be taken away is only told
            assertThat(thrown == null).isEqualTo(mode == LoadMode.CREATE);
        } finally {
            PLAYED.failsNoMore();
        }
        try (TargetPlace target = Places.openTarget(url(""))) {
            Leftover left = target.clear("");
            // one renaming is all that a new collection needs
            assertThat(left).isIn(mode == LoadMode.CREATE ? Leftover.NONE : Leftover.FINISHED, Leftover.UNDONE);
            assertThat(names()).allMatch(n -> n.equals("sheet"));
            if (left == Leftover.UNDONE) {
                assertThat(documents("sheet")).isEqualTo(before);
            } else {
                assertThat(collection("sheet").countDocuments()).isEqualTo(mode == LoadMode.APPEND ? 1_499 : 1_490);
            }
        }
    }

    @Test
    void twoLoadsAtOnceAreOne() {
        try (TargetPlace target = Places.openTarget(url(""));
                Loading loading = target.begin(List.of(SHEET), LoadMode.CREATE)) {
            assertThatThrownBy(() -> load(sheets(1, 3, "other "), LoadMode.CREATE))
                    .isInstanceOf(UsageException.class)
                    .hasMessageContaining("under way")
                    .hasMessageContaining("sheet");
            assertThat(loading.receipts()).isEmpty();
        }
        assertThat(names()).isEmpty();
        load(sheets(1, 3, "other "), LoadMode.CREATE);
    }

    /** A source whose connection is lost once, in the middle of a table. */
    private static Place losing(Place real) {
        AtomicInteger reads = new AtomicInteger();
        return new ForwardingPlace(real) {
            @Override
            public RecordReader read(Slice slice, Rejects rejects) {
                return read(slice);
            }

            @Override
            public RecordReader read(Slice slice) {
                RecordReader reader = super.read(slice);
                return new RecordReader() {
                    @Override
                    public TableDefinition table() {
                        return reader.table();
                    }

                    @Override
                    public boolean read(RecordBatch batch) {
                        if (reads.incrementAndGet() == 900) {
                            throw new PlaceException("herb", "has gone", false, true, null);
                        }
                        return reader.read(batch);
                    }

                    @Override
                    public void close() {
                        reader.close();
                    }
                };
            }
        };
    }

    @Test
    void aSourceThatIsLostInTheMiddleIsReadAgainAndNothingIsThereTwice() {
        TableDefinition note = TableDefinition.named("note")
                .column("text", LogicalType.varchar(10))
                .build();
        List<List<String>> rows =
                IntStream.range(0, 4_000).mapToObj(i -> List.of("t" + i % 7)).toList();
        for (ListedPlace source : List.of(sheets(1, 4_001, "sheet "), new ListedPlace().with(note, rows))) {
            load(losing(source), LoadMode.CREATE);
            assertThat(reconcile(source, "").tables())
                    .filteredOn(t -> t.table().equals(source.tables().get(0)))
                    .allMatch(t ->
                            t.targetRows().getAsLong() == 4_000 && t.differing().isEmpty());
        }
    }

    @Test
    void aLoadThatIsCancelledLeavesNothing() {
        try (TargetPlace target = Places.openTarget(url(""))) {
            ListedPlace source = sheets(1, 50, "sheet ");
            try (Loading loading = target.begin(List.of(SHEET), LoadMode.CREATE);
                    RecordWriter writer = loading.writer(TablePart.whole(0, SHEET.name()), () -> "");
                    RecordReader reader = source.read(Slice.whole(SHEET))) {
                RecordBatch batch = new RecordBatch();
                assertThat(reader.read(batch)).isTrue();
                writer.write(batch);
                assertThat(names()).contains("ferry_load", "ferry_in_1");
                target.cancel();
                writer.write(batch);
                assertThatThrownBy(writer::finish).isInstanceOf(FerryException.class);
            }
        }
        assertThat(names()).isEmpty();
    }

    @Test
    void aCollectionThatOnlyHasOurNameIsNotOurs() {
        collection("ferry_load").insertOne(BsonDocument.parse("{_id: 'load', text: 'mine'}"));
        assertThatThrownBy(() -> load(sheets(1, 3, "a "), LoadMode.CREATE))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("ferry_load");
        assertThat(collection("ferry_load").countDocuments()).isEqualTo(1);
    }

    /** Names that only look like a load's are somebody's: they are seen, moved, and never taken away. */
    @Test
    void collectionsThatOnlyHaveANameOfOursAreSeenAndKept() {
        collection("ferry_in_1").insertOne(BsonDocument.parse("{_id: 1, harbour: 'mine'}"));
        collection("ferry_in_harbour").insertOne(BsonDocument.parse("{_id: 1}"));
        try (Place place = Places.open(url(""))) {
            assertThat(place.tables()).extracting(TableName::name).containsExactly("ferry_in_1", "ferry_in_harbour");
        }
        assertThatThrownBy(() -> load(sheets(1, 3, "a "), LoadMode.CREATE))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("ferry_in_1");
        assertThat(names()).containsExactlyInAnyOrder("ferry_in_1", "ferry_in_harbour");
        assertThat(collection("ferry_in_1").countDocuments()).isEqualTo(1);
    }

    /** A load that was killed while it added documents is brought to its end, whatever others have done to them since. */
    @Test
    void whatOthersHaveChangedSinceAKillStays() {
        load(sheets(1, 5, "old "), LoadMode.CREATE);
        AtomicInteger writes = new AtomicInteger();
        PLAYED.failing(c -> "sheet".equals(c.get("insert")) && writes.incrementAndGet() > 1
                || writes.get() > 1 && !c.containsKey("find"));
        try {
            assertThatThrownBy(() -> load(sheets(10, 1_500, "new "), LoadMode.APPEND))
                    .isInstanceOf(FerryException.class);
        } finally {
            PLAYED.failsNoMore();
        }
        BsonDocument changed = documents("sheet").get(4);
        collection("sheet")
                .updateOne(
                        new BsonDocument("_id", changed.get("_id")),
                        BsonDocument.parse("{$set: {name: 'by somebody else'}}"));
        try (TargetPlace target = Places.openTarget(url(""))) {
            assertThat(target.clear("")).isEqualTo(Leftover.FINISHED);
        }
        assertThat(collection("sheet").countDocuments()).isEqualTo(4 + 1_490);
        assertThat(collection("sheet").countDocuments(BsonDocument.parse("{name: 'by somebody else'}")))
                .isEqualTo(1);
        assertThat(names()).containsExactly("sheet");
    }

    /** And undoing takes away what the load has added, not what others have put there under the same key. */
    @Test
    void whatOthersHavePutThereMeanwhileStays() {
        load(sheets(1, 5, "old "), LoadMode.CREATE);
        PLAYED.failing(c -> {
            if ("sheet".equals(c.get("insert"))) {
                PLAYED.failsNoMore();
                PLAYED.put(database, "sheet", new Document("_id", 12).append("name", "by somebody else"));
            }
            return false;
        });
        assertThatThrownBy(() -> load(sheets(10, 50, "new "), LoadMode.APPEND))
                .isInstanceOf(FerryException.class)
                .hasMessageContaining("twice");
        assertThat(collection("sheet").countDocuments()).isEqualTo(5);
        assertThat(collection("sheet").countDocuments(BsonDocument.parse("{_id: 12, name: 'by somebody else'}")))
                .isEqualTo(1);
    }
}
