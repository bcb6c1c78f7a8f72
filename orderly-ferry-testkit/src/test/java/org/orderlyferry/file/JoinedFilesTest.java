package org.orderlyferry.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.Map;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.doubles.Contents;

/** Files whose names are given by a pattern are one table. */
class JoinedFilesTest {

    @TempDir
    Path folder;

    private void write(String name, String text) throws IOException {
        Files.writeString(folder.resolve(name), text);
    }

    private Place open(String pattern) {
        return Places.open(folder.resolve(pattern));
    }

    private static List<List<String>> all(Place place) {
        return Contents.of(place.read(Slice.whole(place.define(place.tables().get(0)))));
    }

    @Test
    void theirRecordsComeInOrderOfTheirNamesWhateverTheOrderOfTheirColumns() throws Exception {
        write("loan-2030.csv", "id,note\n1,a\n2,b\n");
        write("loan-2031.csv", "note,id\nc,3\n");
        try (OutputStream out = new GZIPOutputStream(Files.newOutputStream(folder.resolve("loan-2032.csv.gz")))) {
            out.write("id,note\n4,d\n".getBytes());
        }
        write("loan-2033.csv", "");
        write("other.csv", "x\n9\n");
        try (Place place = open("loan-*.csv*")) {
            assertThat(place.tables()).containsExactly(TableName.of("loan"));
            assertThat(all(place))
                    .containsExactly(List.of("1", "a"), List.of("2", "b"), List.of("3", "c"), List.of("4", "d"));
            assertThat(place.count(TableName.of("loan"))).isEqualTo(4);
            assertThat(place.define(TableName.of("loan")).columns().get(0).type())
                    .isEqualTo(LogicalType.INTEGER);
            assertThat(place.notices()).extracting(Finding::text).anyMatch(t -> t.contains("loan-2033.csv"));
        }
    }

    @Test
    void eachIsASliceOfItsOwnAndALargerOneIsSeveral() throws Exception {
        write("loan-1.csv", "id,note\n1,a\n2,b\n3,c\n4,d\n5,e\n6,f\n7,g\n8,h\n");
        write("loan-2.csv", "id,note\n9,a\n");
        try (Place place = open("loan-*.csv")) {
            TableDefinition table = place.define(TableName.of("loan"));
            List<Slice> slices = place.cut(table, place.estimate(table.name()), new Cut(3, Map.of()));
            assertThat(slices).hasSizeBetween(3, 5);
            assertThat(slices.stream()
                            .flatMap(s -> Contents.of(place.read(s)).stream())
                            .toList())
                    .isEqualTo(all(place));
            assertThat(place.cut(table, 9, new Cut(100, Map.of()))).hasSize(1);
        }
    }

    @Test
    void objectsMayLackFieldsThatOthersHave() throws Exception {
        write("loan-1.jsonl", "{\"id\":1,\"note\":\"a\"}\n");
        write("loan-2.jsonl", "{\"id\":2,\"dry\":true}\n{\"id\":3,\"note\":4}\n");
        try (Place place = open("loan-*.jsonl")) {
            assertThat(place.define(TableName.of("loan")).columnNames()).containsExactly("id", "note", "dry");
            assertThat(all(place).stream().map(r -> r.subList(0, 2)).toList())
                    .containsExactly(List.of("1", "a"), java.util.Arrays.asList("2", null), List.of("3", "4"));
        }
    }

    @Test
    void aDescriptionBesideThemIsOfAllOfThem() throws Exception {
        write("loan-1.csv", "id,note\n01,a\n");
        write("loan-2.csv", "id,note\n02,b\n");
        write(
                "loan.csv-metadata.json",
                "{\"@context\":\"http://www.w3.org/ns/csvw\",\"url\":\"loan.csv\",\"tableSchema\":{\"columns\":["
                        + "{\"name\":\"id\",\"datatype\":\"string\"},{\"name\":\"note\",\"datatype\":\"string\"}]}}");
        try (Place place = open("loan-*.csv")) {
            assertThat(all(place)).containsExactly(List.of("01", "a"), List.of("02", "b"));
            assertThat(place.notices()).extracting(Finding::text).anyMatch(t -> t.contains("loan.csv-metadata.json"));
        }
    }

    @ParameterizedTest
    @CsvSource({
        "loan-*.csv, loan",
        "*-loan.csv, loan",
        "*.csv, arrivals",
        "2030_loan_*.csv, 2030_loan",
        "l*n.csv, l",
    })
    void theTableIsCalledAsTheyAre(String pattern, String name) throws Exception {
        Path arrivals = Files.createDirectory(folder.resolve("arrivals"));
        for (String file : List.of("loan-1.csv", "1-loan.csv", "2030_loan_1.csv", "loan.csv")) {
            Files.writeString(arrivals.resolve(file), "id\n1\n");
        }
        try (Place place = Places.open(arrivals.resolve(pattern))) {
            assertThat(place.tables()).containsExactly(TableName.of(name));
        }
    }

    @Test
    void filesThatDoNotBelongTogetherAreRefusedByName() throws Exception {
        write("loan-1.csv", "id,note\n1,a\n");
        write("loan-2.csv", "id,dry\n2,b\n");
        assertThatThrownBy(() -> open("loan-*.csv"))
                .hasMessageContainingAll("loan-2.csv", "missing: note", "not in those: dry");
        write("loan-3.json", "[{\"id\":3}]");
        assertThatThrownBy(() -> open("loan-*")).hasMessageContainingAll("loan-1.csv is ", "loan-3.json is JSON");
        assertThatThrownBy(() -> open("lone-*")).isInstanceOf(PlaceException.class);
        assertThatThrownBy(() -> open("nowhere/lone-*")).isInstanceOf(PlaceException.class);
    }

    @Test
    void aFileWithAStarInItsNameIsThatFile() throws Exception {
        write("lo*n.csv", "id\n1\n");
        write("loan.csv", "id\n2\n");
        try (Place place = open("lo*n.csv")) {
            assertThat(all(place)).containsExactly(List.of("1"));
        }
    }

    @Test
    void aFileThatIsChangedWhileItIsReadIsTold() throws Exception {
        write("loan-1.csv", "id\n1\n");
        write("loan-2.csv", "id\n2\n");
        for (String name : List.of("loan-1.csv", "loan-*.csv")) {
            try (Place place = open(name)) {
                TableDefinition table = place.define(place.tables().get(0));
                try (RecordReader reader = place.read(Slice.whole(table))) {
                    RecordBatch batch = new RecordBatch();
                    assertThat(reader.read(batch)).isTrue();
                    assertThat(reader.findings()).isEmpty();
                    Files.writeString(folder.resolve("loan-1.csv"), "9\n", StandardOpenOption.APPEND);
                    while (reader.read(batch)) {
                        // to the end
                    }
                    assertThat(reader.findings()).extracting(Finding::code).containsOnly(FindingCode.FILE_CHANGED);
                }
            }
        }
    }

    @Test
    void theirStateIsThatOfAllTheirBytes() throws Exception {
        write("loan-1.csv", "id\n1\n");
        write("loan-2.csv", "id\n2\n");
        String before = state();
        assertThat(state()).isEqualTo(before);
        write("loan-2.csv", "id\n3\n");
        assertThat(state()).isNotEqualTo(before);
        write("loan-2.csv", "id\n2\n");
        assertThat(state()).isEqualTo(before);
        Files.move(folder.resolve("loan-2.csv"), folder.resolve("loan-3.csv"));
        assertThat(state()).isNotEqualTo(before);
    }

    private String state() {
        try (Place place = open("loan-*.csv")) {
            return place.state().orElseThrow();
        }
    }
}
