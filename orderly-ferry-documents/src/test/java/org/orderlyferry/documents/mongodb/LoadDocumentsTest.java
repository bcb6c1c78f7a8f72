package org.orderlyferry.documents.mongodb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import com.mongodb.client.MongoClient;
import com.mongodb.client.MongoClients;
import com.mongodb.client.MongoCollection;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonType;
import org.bson.BsonValue;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.LocalDocuments;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Records that become documents. */
class LoadDocumentsTest {

    private static final AtomicInteger NUMBER = new AtomicInteger();
    private static final PlayedServer PLAYED = new PlayedServer();

    private static final TableDefinition SHEET = TableDefinition.named("sheet")
            .column(ColumnDefinition.named("no", LogicalType.INTEGER)
                    .nullable(false)
                    .build())
            .column(ColumnDefinition.named("name", LogicalType.varchar(20))
                    .nullable(false)
                    .build())
            .column("found", LogicalType.DATE)
            .column("seen", LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 3))
            .column("mass", LogicalType.decimal(12, 3))
            .column("code", LogicalType.of(TypeName.CHARACTER, 6))
            .primaryKey("no")
            .unique(new Key("sheet_code", List.of("code")))
            .unique(new Key("sheet_named", List.of("name")))
            .index(IndexDefinition.of("sheet_name", false, List.of("name", "found")))
            .build();

    private static LocalDocuments server;
    private static MongoClient client;

    private final String database = "herb" + NUMBER.incrementAndGet();

    @TempDir
    private Path folder;

    @BeforeAll
    static void start() {
        server = LocalDocuments.start(PLAYED);
        client = MongoClients.create(server.url(""));
    }

    @AfterAll
    static void stop() {
        client.close();
        server.close();
    }

    private static ListedPlace sheets(int from, int to, String name) {
        return new ListedPlace()
                .with(
                        SHEET,
                        IntStream.range(from, to)
                                .mapToObj(i -> Arrays.asList(
                                        Integer.toString(i),
                                        name + i,
                                        i % 3 == 0 ? null : "2031-04-09",
                                        "2031-04-09T11:30:00.125Z",
                                        i % 2 == 0 ? null : "12.500",
                                        i % 5 == 0 ? null : "c" + i))
                                .toList());
    }

    private String url(String parameters) {
        return server.url(database) + parameters;
    }

    private TransferResult load(Place source, LoadMode mode) {
        return load(source, mode, "");
    }

    private TransferResult load(Place source, LoadMode mode, String parameters) {
        try (TargetPlace target = Places.openTarget(url(parameters))) {
            return Load.from(source).mode(mode).into(target);
        }
    }

    private MongoCollection<BsonDocument> collection(String name) {
        return client.getDatabase(database).getCollection(name, BsonDocument.class);
    }

    private List<BsonDocument> documents(String name) {
        return collection(name)
                .find()
                .sort(new BsonDocument("_id", new BsonInt32(1)))
                .into(new ArrayList<>());
    }

    private List<String> names() {
        return client.getDatabase(database).listCollectionNames().into(new ArrayList<>());
    }

    private ReconcileResult reconcile(Place source, String parameters) {
        try (Place target = Places.open(url(parameters))) {
            return Reconcile.between(source, target).depth(Depth.ROWS).compare();
        }
    }

    @Test
    void aKeyIsTheIdAndDefinitionsAreKeptByAValidator() {
        // this server has no indexes of some documents alone, which it was asked by trying
        assertThat(load(sheets(1, 40, "sheet "), LoadMode.CREATE).leftBehind())
                .extracting(LeftBehind::toString)
                .containsExactly(
                        "unique key sheet.sheet_code: the server takes a null for a value that only one document"
                                + " may have");
        BsonDocument first = documents("sheet").get(0);
        assertThat(first.keySet()).containsExactly("_id", "name", "found", "seen", "mass", "code");
        assertThat(first.values())
                .extracting(BsonValue::getBsonType)
                .containsExactly(
                        BsonType.INT32,
                        BsonType.STRING,
                        BsonType.STRING,
                        BsonType.DATE_TIME,
                        BsonType.DECIMAL128,
                        BsonType.STRING);
        assertThat(first.getDecimal128("mass").getValue()).hasToString("12.500");
        try (Place target = Places.open(url(""))) {
            TableDefinition table = target.define(TableName.of("sheet"));
            assertThat(target.keepsDefinition(table.name())).isTrue();
            assertThat(table.columns().stream()
                            .map(c -> c.name() + " " + c.type() + " " + c.nullable())
                            .toList())
                    .containsExactly(
                            "_id INTEGER false",
                            "name CHARACTER VARYING(20) false",
                            "found DATE true",
                            "seen TIMESTAMP(3) WITH TIME ZONE true",
                            "mass DECIMAL(12,3) true",
                            "code CHARACTER(6) true");
            assertThat(table.uniqueKeys()).extracting(Key::name).containsExactly("sheet_named");
            assertThat(table.indexes()).extracting(IndexDefinition::name).containsExactly("sheet_name");
        }
        assertThat(reconcile(sheets(1, 40, "sheet "), "").isEqual()).isTrue();
        for (String wrong :
                List.of("{_id: 99, name: 5}", "{_id: 99}", "{_id: 99, name: 'a name of more than twenty'}")) {
            assertThatThrownBy(() -> collection("sheet").insertOne(BsonDocument.parse(wrong)))
                    .hasMessageContaining("failed validation");
        }
        try (Place target = Places.open(url(""))) {
            ReconcileResult compared = Reconcile.between(sheets(1, 40, "sheet "), target)
                    .definitions(true)
                    .compare();
            assertThat(compared.definitions().orElseThrow().differences())
                    .extracting(Object::toString)
                    .singleElement()
                    .asString()
                    .contains("code");
        }
        assertThat(names()).containsExactly("sheet");
    }

    /** A validator of ours takes all that a load of ours writes, whatever columns there are and whatever is null. */
    @Test
    void whatIsWrittenIsWhatItsValidatorTakes() {
        TableDefinition.Builder all = TableDefinition.named("all")
                .column(ColumnDefinition.named("no", LogicalType.INTEGER)
                        .nullable(false)
                        .build())
                .primaryKey("no");
        List<String> values = new ArrayList<>(List.of("1"));
        Map<LogicalType, String> samples = Map.ofEntries(
                Map.entry(LogicalType.of(TypeName.SMALLINT), "7"),
                Map.entry(LogicalType.BIGINT, "7"),
                Map.entry(LogicalType.of(TypeName.REAL), "0.1"),
                Map.entry(LogicalType.DOUBLE, "5.0"),
                Map.entry(LogicalType.decimal(10, 2), "1.50"),
                Map.entry(LogicalType.decimal(60, 2), "1.50"),
                Map.entry(LogicalType.BOOLEAN, "true"),
                Map.entry(LogicalType.varchar(3), "äöü"),
                Map.entry(LogicalType.of(TypeName.CHARACTER, 2), "ab"),
                Map.entry(LogicalType.CLOB, "long"),
                Map.entry(LogicalType.DATE, "2031-04-09"),
                Map.entry(LogicalType.of(TypeName.TIME, 3), "11:30:00.5"),
                Map.entry(LogicalType.of(TypeName.TIMESTAMP, 3), "2031-04-09T11:30:00.125"),
                Map.entry(LogicalType.of(TypeName.TIMESTAMP, 6), "2031-04-09T11:30:00.123456"),
                Map.entry(LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 3), "2031-04-09T11:30:00Z"),
                Map.entry(LogicalType.UUID, "114955a1-d1b8-2695-4d43-4bff10adcafe"),
                Map.entry(LogicalType.BLOB, "AAH/"),
                Map.entry(LogicalType.JSON, "{\"a\":null}"));
        samples.forEach((type, value) -> {
            all.column("c" + values.size(), type);
            values.add(value);
        });
        List<String> nulls = new ArrayList<>(java.util.Collections.nCopies(values.size(), null));
        nulls.set(0, "2");
        ListedPlace place = new ListedPlace().with(all.build(), List.of(values, nulls));
        for (String parameters : List.of("", "?nulls=absent")) {
            load(place, LoadMode.REPLACE, parameters);
            assertThat(reconcile(place, "").isEqual()).isTrue();
            try (Place target = Places.open(url(""))) {
                assertThat(target.define(TableName.of("all")).columns().stream()
                                .map(ColumnDefinition::type)
                                .toList())
                        .containsExactlyElementsOf(all.build().columns().stream()
                                .map(ColumnDefinition::type)
                                .toList());
            }
        }
    }

    @Test
    void aServerThatFindsRangesIsReadInSlicesOverSeveralLanes() {
        load(sheets(1, 101, "sheet "), LoadMode.CREATE);
        try (Place source = Places.open(url(""))) {
            TableDefinition table = source.define(TableName.of("sheet"));
            List<Slice> slices = source.cut(table, 100, new Cut(30, Map.of()));
            assertThat(slices)
                    .extracting(s -> s.range().toString())
                    .containsExactly("_id up to 31", "_id from 31 up to 61", "_id from 61 up to 91", "_id from 91");
            Path set = folder.resolve("set");
            assertThat(Export.from(source)
                            .lanes(3)
                            .sliceRows(30)
                            .to(set)
                            .tables()
                            .get(0)
                            .read())
                    .isEqualTo(100);
            try (Place kept = Places.open(set)) {
                assertThat(reconcile(kept, "").isEqual()).isTrue();
            }
            assertThatThrownBy(() -> source.cut(table, 100, new Cut(30, Map.of(table.name(), "name"))))
                    .isInstanceOf(UsageException.class);
        }
    }

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
    void recordsWithoutAKeyGetIdsThatNobodyTakesForTheirs() {
        TableDefinition note = TableDefinition.named("note")
                .column("text", LogicalType.varchar(10))
                .build();
        ListedPlace notes = new ListedPlace().with(note, List.of(List.of("a"), List.of("a"), List.of("b")));
        load(notes, LoadMode.CREATE);
        load(notes, LoadMode.APPEND);
        assertThat(collection("note").countDocuments()).isEqualTo(6);
        load(notes, LoadMode.REPLACE);
        try (Place target = Places.open(url(""))) {
            assertThat(target.define(note.name()).columnNames()).containsExactly("text");
            assertThat(target.define(note.name()).primaryKey()).isEmpty();
        }
        assertThat(reconcile(notes, "").isEqual()).isTrue();
        assertThatThrownBy(() -> load(notes, LoadMode.MERGE)).isInstanceOf(UsageException.class);
    }

    @Test
    void aMergeChangesWhatIsGivenAndCountsIt() {
        collection("sheet").insertOne(BsonDocument.parse("{_id: 1, name: 'one', extra: {kept: true}}"));
        collection("sheet").insertOne(BsonDocument.parse("{_id: 9, name: 'nine'}"));
        TableDefinition some = TableDefinition.named("sheet")
                .column(ColumnDefinition.named("_id", LogicalType.INTEGER)
                        .nullable(false)
                        .build())
                .column("name", LogicalType.varchar(20))
                .primaryKey("_id")
                .build();
        ListedPlace changes =
                new ListedPlace().with(some, List.of(List.of("1", "uno"), List.of("2", "two"), List.of("9", "nine")));
        TransferResult result = load(changes, LoadMode.MERGE);
        assertThat(result.tables().get(0).merged().orElseThrow())
                .hasToString("Merged[inserted=1, updated=1, unchanged=1]");
        assertThat(documents("sheet"))
                .containsExactly(
                        BsonDocument.parse("{_id: 1, name: 'uno', extra: {kept: true}}"),
                        BsonDocument.parse("{_id: 2, name: 'two'}"),
                        BsonDocument.parse("{_id: 9, name: 'nine'}"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"fields", "apart", "whole"})
    void documentsComeBackAsTheyWere(String form) {
        List<BsonDocument> all = List.of(
                BsonDocument.parse("{_id: {$oid: '65a1b2c3d4e5f60718293a4b'}, a: {b: 1, c: {d: {$numberLong: '2'}}},"
                        + " l: [1, {x: 'y', value: 3, $or: [1]}, [2]]}"),
                BsonDocument.parse(
                        "{_id: {$oid: '65a1b2c3d4e5f60718293a4c'}, a: {b: 7, e: {$numberDecimal: '1.50'}},"
                                + " d: {$date: 1000}, s: 'Größe', n: {$numberDouble: '5.0'}, l: [{x: 'z', deep: {list: ['q']}}]}"),
                BsonDocument.parse("{_id: {$oid: '65a1b2c3d4e5f60718293a4e'}, d: {$date: {$numberLong:"
                        + " '9223372036854775807'}}, e: {$date: {$numberLong: '-62135596800001'}}}"),
                BsonDocument.parse("{_id: {$oid: '65a1b2c3d4e5f60718293a4d'}, $odd: 1, r: {$regularExpression:"
                        + " {pattern: '^a', options: 'i'}}, u: {$uuid: '114955a1-d1b8-2695-4d43-4bff10adcafe'}}"));
        collection("old").insertMany(all);
        Path set = folder.resolve("set");
        try (Place source = Places.open(url("?form=" + form))) {
            Export.from(source).to(set);
        }
        collection("old").drop();
        try (Place kept = Places.open(set)) {
            load(kept, LoadMode.CREATE, "?nulls=absent&form=" + form);
            assertThat(documents("old")).hasSameSizeAs(all);
            for (BsonDocument was : all) {
                // a field that isn't of one type in all documents comes back as each was
                assertThat(new ArrayList<>(collection("old")
                                .find(new BsonDocument("_id", was.get("_id")))
                                .first()
                                .entrySet()))
                        .containsExactlyInAnyOrderElementsOf(was.entrySet());
            }
            assertThat(reconcile(kept, "?form=" + form).isEqual()).isTrue();
        }
    }

    @Test
    void tablesThatReferCanBeNestedWhereToldSo() {
        TableDefinition loan = TableDefinition.named("loan")
                .column(ColumnDefinition.named("id", LogicalType.BIGINT)
                        .nullable(false)
                        .build())
                .column("sheet", LogicalType.INTEGER)
                .column("who", LogicalType.varchar(20))
                .primaryKey("id")
                .foreignKey(new ForeignKey(
                        "loan_sheet",
                        List.of("sheet"),
                        SHEET.name(),
                        List.of("no"),
                        ReferentialAction.NO_ACTION,
                        ReferentialAction.NO_ACTION))
                .build();
        ListedPlace garden = sheets(1, 4, "sheet ")
                .with(loan, List.of(List.of("7", "2", "Ada"), List.of("8", "2", "Bo"), List.of("9", "3", "Cy")));
        TransferResult result = load(garden, LoadMode.CREATE, "?nest=loan");
        assertThat(names()).containsExactly("sheet");
        assertThat(documents("sheet").get(1).getArray("loan").toString())
                .contains("Ada")
                .contains("Bo");
        assertThat(documents("sheet").get(0).containsKey("loan")).isFalse();
        assertThat(result.leftBehind()).extracting(LeftBehind::kind).doesNotContain("reference");
        assertThatThrownBy(() -> load(garden, LoadMode.REPLACE, "?nest=sheet"))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("can't be nested");
        assertThatThrownBy(() -> load(garden, LoadMode.REPLACE, "?nest=loan:other"))
                .isInstanceOf(UsageException.class);
        load(garden, LoadMode.REPLACE, "?nest=loan:sheet");
        assertThat(documents("sheet").get(1).getArray("loan")).hasSize(2);
        TableDefinition twice = loan.toBuilder()
                .foreignKey(new ForeignKey(
                        "other",
                        List.of("who"),
                        TableName.of("person"),
                        List.of("name"),
                        ReferentialAction.NO_ACTION,
                        ReferentialAction.NO_ACTION))
                .build();
        TableDefinition person = TableDefinition.named("person")
                .column(ColumnDefinition.named("name", LogicalType.varchar(20))
                        .nullable(false)
                        .build())
                .primaryKey("name")
                .build();
        ListedPlace both = sheets(1, 4, "sheet ").with(twice, List.of()).with(person, List.of());
        assertThatThrownBy(() -> load(both, LoadMode.REPLACE, "?nest=loan"))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("several")
                .hasMessageContaining("loan:");
        ListedPlace orphan = sheets(1, 4, "sheet ").with(loan, List.of(List.of("7", "99", "Ada")));
        assertThatThrownBy(() -> load(orphan, LoadMode.REPLACE, "?nest=loan"))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("loan")
                .hasMessageContaining("99");
        assertThat(collection("sheet").countDocuments()).isEqualTo(3);
    }

    @Test
    void whatADocumentCanNotHoldIsRefusedWithItsValue() {
        TableDefinition table = TableDefinition.named("sheet")
                .column(ColumnDefinition.named("no", LogicalType.INTEGER)
                        .nullable(false)
                        .build())
                .column("exact", LogicalType.of(TypeName.DECIMAL))
                .column("at", LogicalType.of(TypeName.TIMESTAMP, 3))
                .primaryKey("no")
                .build();
        ListedPlace digits = new ListedPlace().with(table, List.of(Arrays.asList("1", "1." + "1".repeat(40), null)));
        assertThatThrownBy(() -> load(digits, LoadMode.CREATE))
                .isInstanceOf(BadValueException.class)
                .hasMessageContaining("exact")
                .hasMessageContaining("34");
        ListedPlace twice = sheets(1, 3, "a ")
                .with(table.toBuilder().name(TableName.of("t")).build(), List.of());
        assertThat(load(twice, LoadMode.CREATE).tables()).hasSize(2);
        ListedPlace same = new ListedPlace()
                .with(
                        SHEET.toBuilder().name(TableName.of("s")).build(),
                        List.of(
                                Arrays.asList("1", "a", null, null, null, null),
                                Arrays.asList("1", "b", null, null, null, null)));
        assertThatThrownBy(() -> load(same, LoadMode.CREATE))
                .isInstanceOf(BadRecordException.class)
                .hasMessageContaining("no = 1")
                .hasMessageContaining("twice")
                .hasMessageNotContaining("ferry_in");
        assertThat(names()).containsExactlyInAnyOrder("sheet", "t");
    }

    @Test
    void namesThatWouldBePathsOrCommandsAreChangedAndTold() {
        TableDefinition odd = TableDefinition.named(new TableName("main", "system.odd$"))
                .column(ColumnDefinition.named("a.b", LogicalType.INTEGER)
                        .nullable(false)
                        .build())
                .column("$where", LogicalType.INTEGER)
                .column("_id", LogicalType.INTEGER)
                .column("x.y", LogicalType.INTEGER)
                .column("x_y", LogicalType.INTEGER)
                .primaryKey("a.b")
                .build();
        ListedPlace place = new ListedPlace().with(odd, List.of(List.of("1", "2", "3", "4", "5")));
        TransferResult result = load(place, LoadMode.CREATE);
        assertThat(names()).containsExactly("_system.odd_");
        assertThat(documents("_system.odd_"))
                .containsExactly(BsonDocument.parse("{_id: 1, _where: 2, _id_2: 3, x_y: 4, x_y_2: 5}"));
        assertThat(result.findings().toString()).contains("the column becomes the field _id_2");
        assertThat(reconcile(place, "").isEqual()).isTrue();
    }

    @Test
    void aCollectionThatOnlyHasOurNameIsNotOurs() {
        collection("ferry_load").insertOne(BsonDocument.parse("{_id: 'load', text: 'mine'}"));
        assertThatThrownBy(() -> load(sheets(1, 3, "a "), LoadMode.CREATE))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("ferry_load");
        assertThat(collection("ferry_load").countDocuments()).isEqualTo(1);
    }
}
