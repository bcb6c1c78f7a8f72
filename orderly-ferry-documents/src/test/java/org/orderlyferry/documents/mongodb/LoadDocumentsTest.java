package org.orderlyferry.documents.mongodb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.bson.BsonDocument;
import org.bson.BsonType;
import org.bson.BsonValue;
import org.junit.jupiter.api.Test;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.TransferResult;

/** Records that become documents. */
class LoadDocumentsTest extends DocumentLoadCase {

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
}
