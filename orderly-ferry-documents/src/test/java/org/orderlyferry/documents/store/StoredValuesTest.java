package org.orderlyferry.documents.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.generated.GeneratedRows;
import org.orderlyferry.testkit.generated.GeneratedTables;
import org.orderlyferry.work.Load;

/** What goes into a store's documents comes out of them, and what is in them is told as it is. */
class StoredValuesTest extends StoreCase {

    @Test
    void generatedTablesComeBackWithAllDefinitionsAndValues() {
        for (long seed = 0; seed < 5; seed++) {
            store.makeKey("p" + seed, folder.resolve("p" + seed), KEYS);
            String there = store.url("p" + seed, folder.resolve("p" + seed));
            List<TableDefinition> tables = new GeneratedTables(seed).some(4);
            ListedPlace source = new GeneratedRows(seed).fill(tables, 40);
            try (TargetPlace target = Places.openTarget(there)) {
                Load.from(source).lanes(2).into(target);
            }
            try (Place place = Places.open(there)) {
                ReconcileResult result = Reconcile.between(source, place).compare();
                assertThat(result.isEqual()).as(seed + " " + result).isTrue();
                for (TableDefinition table : tables) {
                    TableDefinition back = place.tables().stream()
                            .filter(t -> t.name().endsWith(table.name().name()))
                            .map(place::define)
                            .findFirst()
                            .orElseThrow();
                    assertThat(back.columns()).hasSameSizeAs(table.columns());
                    assertThat(back.primaryKey()).isEqualTo(table.primaryKey());
                    assertThat(back.uniqueKeys()).isEqualTo(table.uniqueKeys());
                }
            }
        }
    }

    @Test
    void jsonKeepsItsNamesAndItsNull() {
        ListedPlace source = new ListedPlace();
        List<List<String>> rows = new ArrayList<>();
        List<String> values = List.of(
                "null",
                "{\"@date\":\"2031-04-09\"}",
                "{\"@date\":5}",
                "{\"@moss\":{\"@@fern\":[1.50,\"x\"]}}",
                "{\"a\":{\"@date\":\"no date\"},\"b\":1}",
                "[]",
                "{}",
                "\"@date\"",
                "123456789012345678901234567890.123",
                "-0.0");
        for (int i = 0; i < values.size(); i++) {
            rows.add(List.of(Integer.toString(i), values.get(i)));
        }
        source.with(
                TableDefinition.named(TableName.of("@sheet"))
                        .column("@id", LogicalType.INTEGER)
                        .column("@@value", LogicalType.JSON)
                        .primaryKey("@id")
                        .build(),
                rows);
        load(source, LoadMode.CREATE);
        try (Place place = Places.open(address)) {
            ReconcileResult result = Reconcile.between(source, place).compare();
            assertThat(result.isEqual()).as(result.toString()).isTrue();
        }
    }

    @Test
    void fieldsOfDocumentsThatSomebodyElseHasWrittenAreFoundOut() {
        write(
                "sheet",
                "{\"id\":\"a\",\"fields\":{\"count\":1,\"mass\":1.5,\"id\":\"x\",\"made\":{\"@date\":\"2031-04-09\"},\"mixed\":1,"
                        + "\"place\":{\"hall\":1},\"none\":null}},"
                        + "{\"id\":\"b\",\"fields\":{\"count\":2,\"mass\":2,\"mixed\":\"text\",\"money\":{\"@decimal\":\"12.50\"},"
                        + "\"bytes\":{\"@bytes\":\"AP8=\"}}}");
        try (Place place = Places.open(address)) {
            TableDefinition sheet = place.define(TableName.of("sheet"));
            assertThat(sheet.columns())
                    .extracting(c -> c.name() + " " + c.type() + " " + c.nullable())
                    .containsExactlyInAnyOrder(
                            "id CHARACTER VARYING(1500) false",
                            "count BIGINT false",
                            "mass DOUBLE PRECISION false",
                            "id_ CHARACTER VARYING(255) true",
                            "made DATE true",
                            "mixed JSON false",
                            "place JSON true",
                            "none CHARACTER VARYING(1) true",
                            "money DECIMAL true",
                            "bytes BINARY LARGE OBJECT true");
            assertThat(Contents.of(place.read(new Slice(
                            TableName.of("sheet"),
                            List.of("id", "id_", "count", "mass", "made", "mixed", "place", "money", "bytes")))))
                    .extracting(Object::toString)
                    .containsExactly(
                            "[a, x, 1, 1.5, 2031-04-09, 1, {\"hall\":1}, null, null]",
                            "[b, null, 2, 2.0, null, \"text\", null, 12.50, AP8=]");
        }
    }

    @Test
    void aValueThatIsNoneOfItsColumnIsRejectedByName() {
        ListedPlace source = new ListedPlace();
        source.with(
                TableDefinition.named(TableName.of("sheet"))
                        .column("id", LogicalType.INTEGER)
                        .column("count", LogicalType.INTEGER)
                        .primaryKey("id")
                        .build(),
                List.of(List.of("1", "5")));
        load(source, LoadMode.CREATE);
        client().write(
                        "sheet",
                        "{\"writes\":[{\"id\":\"2\",\"fields\":{\"id\":2,\"count\":\"five\"}}]}"
                                .getBytes(java.nio.charset.StandardCharsets.UTF_8));
        List<String> rejected = new ArrayList<>();
        OpenOptions options = OpenOptions.builder()
                .rejects(why -> rejected.add(why.getMessage()))
                .build();
        try (Place place = Places.open(PlaceAddress.of(address), options)) {
            assertThat(Contents.of(place.read(Slice.whole(place.define(TableName.of("sheet"))))))
                    .hasSize(1);
            assertThat(rejected).singleElement().asString().contains("count", "five", "document 2");
        }
    }

    @Test
    void whatIsTooLargeForADocumentIsRefusedByNameOrRejected() {
        ListedPlace source = new ListedPlace();
        source.with(
                TableDefinition.named(TableName.of("sheet"))
                        .column("id", LogicalType.INTEGER)
                        .column("story", LogicalType.CLOB)
                        .column("attributes", LogicalType.JSON)
                        .primaryKey("id")
                        .build(),
                List.of(
                        List.of("1", "moss", "{}"),
                        List.of("2", "m".repeat(1_100_000), "{}"),
                        List.of("3", "fern", "{\"a\":1,\"a\":2}")));
        assertThatThrownBy(() -> load(source, LoadMode.CREATE))
                .isInstanceOf(BadValueException.class)
                .hasMessageContaining("story");
        assertThat(state()).isEmpty();
        List<String> rejected = new ArrayList<>();
        try (TargetPlace target = Places.openTarget(address)) {
            Load.from(source).rejects(why -> rejected.add(why.getMessage())).into(target);
        }
        assertThat(state().get("sheet")).hasSize(1);
        assertThat(rejected).hasSize(2).anyMatch(w -> w.contains("story")).anyMatch(w -> w.contains("attributes"));
        try (TargetPlace target = Places.openTarget(address)) {
            var result =
                    Load.from(source).mode(LoadMode.REPLACE).rehearsal(true).into(target);
            assertThat(result.findings().toString()).contains("can't be in a document");
        }
    }
}
