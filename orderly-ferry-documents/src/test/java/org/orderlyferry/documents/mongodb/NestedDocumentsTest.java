package org.orderlyferry.documents.mongodb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import de.bwaldvogel.mongo.bson.Document;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.bson.BsonDocument;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.TransferResult;

/** Documents that are taken apart and put together again, and tables that become lists in documents. */
class NestedDocumentsTest extends DocumentLoadCase {

    private static final List<List<String>> LOANS =
            List.of(List.of("7", "2", "Ada"), List.of("8", "2", "Bo"), List.of("9", "3", "Cy"));

    /** Loans of sheets. */
    private static TableDefinition loans(LogicalType reference) {
        return TableDefinition.named("loan")
                .column(ColumnDefinition.named("id", LogicalType.BIGINT)
                        .nullable(false)
                        .build())
                .column("sheet", reference)
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
        TableDefinition loan = loans(LogicalType.INTEGER);
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

    /** A nested table takes nothing of the name that it has elsewhere: not by its load, nor when that is undone. */
    @Test
    void aCollectionOfTheNameOfANestedTableIsNoOnesBusiness() {
        collection("loan").insertOne(BsonDocument.parse("{_id: 'mine'}"));
        ListedPlace garden = sheets(1, 4, "sheet ").with(loans(LogicalType.INTEGER), LOANS);
        assertThatThrownBy(() -> load(garden, LoadMode.CREATE, "?nest=loan"))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("loan")
                .hasMessageContaining("lists");
        assertThat(names()).containsExactly("loan");
        collection("loan").drop();
        // one that appears while the load is placed stays as well
        PLAYED.failing(c -> {
            if (c.containsKey("renameCollection")) {
                PLAYED.failsNoMore();
                PLAYED.put(database, "loan", new Document("_id", "mine"));
                return true;
            }
            return false;
        });
        assertThatThrownBy(() -> load(garden, LoadMode.CREATE, "?nest=loan")).isInstanceOf(FerryException.class);
        assertThat(documents("loan")).hasSize(1);
        assertThat(names()).containsExactly("loan");
    }

    /** A reference may be of another size than the key that it refers to. */
    @Test
    void elementsFindTheirDocumentsByValue() {
        load(sheets(1, 4, "sheet ").with(loans(LogicalType.BIGINT), LOANS), LoadMode.CREATE, "?nest=loan");
        assertThat(documents("sheet").get(1).getArray("loan")).hasSize(2);
    }

    @Test
    void aMergeBringsListsAlongAndLeavesThoseThatItHasNothingOf() {
        load(sheets(1, 4, "sheet ").with(loans(LogicalType.INTEGER), LOANS), LoadMode.CREATE, "?nest=loan");
        List<List<String>> more = List.of(List.of("20", "1", "Dora"), List.of("21", "2", "Edda"));
        TransferResult result =
                load(sheets(1, 4, "sheet ").with(loans(LogicalType.INTEGER), more), LoadMode.MERGE, "?nest=loan");
        assertThat(result.tables().stream().flatMap(t -> t.merged().stream()).toList())
                .extracting(Object::toString)
                .containsExactly("Merged[inserted=0, updated=2, unchanged=1]");
        assertThat(documents("sheet").get(0).getArray("loan").toString()).contains("Dora");
        assertThat(documents("sheet").get(1).getArray("loan").toString())
                .contains("Edda")
                .doesNotContain("Ada");
        assertThat(documents("sheet").get(2).getArray("loan").toString()).contains("Cy");
    }

    /** As many as are held at once would be too much for the memory that there is. */
    @Test
    void largeDocumentsAreMergedAndNestedAFewAtATime() {
        TableDefinition large = TableDefinition.named("sheet")
                .column(ColumnDefinition.named("no", LogicalType.INTEGER)
                        .nullable(false)
                        .build())
                .column("scan", LogicalType.CLOB)
                .primaryKey("no")
                .build();
        String scan = "x".repeat(3_000_000);
        ListedPlace place = new ListedPlace()
                .with(
                        large,
                        IntStream.range(1, 6)
                                .mapToObj(i -> List.of("" + i, i + scan))
                                .toList())
                .with(loans(LogicalType.INTEGER), LOANS);
        load(place, LoadMode.CREATE, "?nest=loan");
        load(place, LoadMode.MERGE, "?nest=loan");
        assertThat(collection("sheet").countDocuments()).isEqualTo(5);
        assertThat(documents("sheet").get(1).getArray("loan")).hasSize(2);
    }

    @Test
    void namesWithPointsAreToldSinceTheyComeBackAsPaths() {
        collection("old").insertOne(BsonDocument.parse("{_id: 1, 'a.b': 1, c: {'d.e': 2}}"));
        for (String form : List.of("fields", "apart")) {
            try (Place place = Places.open(url("?form=" + form))) {
                place.define(TableName.of("old"));
                assertThat(place.notices().toString()).contains("old.a.b: is a name with a point");
            }
        }
    }

    @Test
    void twoTablesOfOneNameAreRefusedAloud() {
        collection("sheet").insertOne(BsonDocument.parse("{_id: 1, labels: [1]}"));
        collection("sheet_labels").insertOne(BsonDocument.parse("{_id: 1}"));
        try (Place place = Places.open(url("?form=apart"))) {
            assertThatThrownBy(place::tables).isInstanceOf(UsageException.class).hasMessageContaining("sheet_labels");
        }
        try (Place place = Places.open(url(""))) {
            assertThat(place.tables()).hasSize(2);
        }
    }
}
