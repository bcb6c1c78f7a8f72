package org.orderlyferry.documents.mongodb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What the server won't have is rejected with what it says, and the rest goes on. */
class RefusedDocumentsTest extends DocumentLoadCase {

    private TransferResult load(ListedPlace source, LoadMode mode, List<String> rejected, int lanes) {
        try (TargetPlace target = Places.openTarget(url(""))) {
            return Load.from(source)
                    .mode(mode)
                    .lanes(lanes)
                    .rejects(why -> {
                        synchronized (rejected) {
                            rejected.add(why.getMessage());
                        }
                    })
                    .into(target);
        }
    }

    private static ListedPlace with(ListedPlace sheets, List<List<String>> more) {
        List<List<String>> rows = new ArrayList<>(sheets.rows(SHEET.name()));
        rows.addAll(more);
        return new ListedPlace().with(SHEET, rows);
    }

    private static List<String> sheet(String no, String name, String code) {
        return Arrays.asList(no, name, null, null, null, code);
    }

    @Test
    void keysThatAreThereTwiceAreRejectedByWhicheverComesLater() {
        ListedPlace source = with(
                sheets(0, 1_500, "moss"),
                List.of(
                        sheet("7", "another seven", "x7"),
                        sheet("9001", "moss8", "x8"),
                        sheet("9002", "same code", "c1"),
                        sheet("9003", "no code", null)));
        assertThatThrownBy(() -> load(source, LoadMode.CREATE)).isInstanceOf(FerryException.class);
        assertThat(names()).isEmpty();
        List<String> rejected = new ArrayList<>();
        TransferResult result = load(source, LoadMode.CREATE, rejected, 2);
        assertThat(documents("sheet")).hasSize(1_502);
        assertThat(result.rejected()).isEqualTo(2);
        assertThat(result.tables().get(0).read()).isEqualTo(1_504);
        assertThat(rejected).hasSize(2).allMatch(r -> r.contains("a key is there twice"));
        assertThat(rejected.toString()).contains("no = 7", "no = 9001");
        assertThat(names()).containsExactly("sheet");
    }

    @Test
    void whatIsAddedIsHeldAgainstWhatIsThereAndAgainstItsValidator() {
        load(sheets(0, 10, "moss"), LoadMode.CREATE);
        ListedPlace more = with(
                sheets(20, 30, "fern"),
                List.of(sheet("5", "taken", null), sheet("40", "a name of far too many letters", null)));
        List<String> rejected = new ArrayList<>();
        TransferResult result = load(more, LoadMode.APPEND, rejected, 1);
        assertThat(documents("sheet")).hasSize(20);
        assertThat(result.rejected()).isEqualTo(2);
        assertThat(rejected.toString())
                .contains("a document of this key is there already", "no = 5")
                .contains("no = 40");
        assertThat(documents("sheet").get(5).getString("name").getValue()).isEqualTo("moss5");
    }

    @Test
    void aValidatorOfSomebodyElsesIsHeard() {
        client.getDatabase(database)
                .createCollection(
                        "sheet",
                        new com.mongodb.client.model.CreateCollectionOptions()
                                .validationOptions(
                                        new com.mongodb.client.model.ValidationOptions()
                                                .validator(
                                                        org.bson.BsonDocument.parse(
                                                                "{\"$jsonSchema\":{\"required\":[\"mass\"],\"properties\":{\"mass\":{\"bsonType\":\"decimal\"}}}}"))));
        List<String> rejected = new ArrayList<>();
        TransferResult result = load(sheets(0, 10, "moss"), LoadMode.APPEND, rejected, 1);
        assertThat(documents("sheet")).hasSize(5);
        assertThat(result.rejected()).isEqualTo(5);
        assertThat(rejected).allMatch(r -> r.contains("it isn't as the collection's validator has it"));
        assertThatThrownBy(() -> load(sheets(20, 30, "moss"), LoadMode.APPEND))
                .isInstanceOf(BadRecordException.class)
                .hasMessageContaining("validator");
        assertThat(documents("sheet")).hasSize(5);
    }

    @Test
    void aServerThatRefusesTheWholeIsNoReject() {
        List<String> rejected = new ArrayList<>();
        PLAYED.failing(c -> c.containsKey("insert") && ((String) c.get("insert")).startsWith("ferry_in"));
        try {
            assertThatThrownBy(() -> load(sheets(0, 10, "moss"), LoadMode.CREATE, rejected, 1))
                    .isInstanceOf(FerryException.class)
                    .hasMessageContaining("the played server refuses insert");
        } finally {
            PLAYED.failsNoMore();
        }
        assertThat(rejected).isEmpty();
        assertThat(names()).isEmpty();
    }
}
