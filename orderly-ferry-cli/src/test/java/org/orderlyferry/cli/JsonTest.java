package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Documents of others: where their records are, and what keeps their lists together. */
@Tag("everywhere")
class JsonTest {

    @TempDir
    Path folder;

    private Path file(String text) throws Exception {
        return Files.writeString(folder.resolve("garden.json"), text);
    }

    private String csv(Path file, Object... more) throws Exception {
        Path to = folder.resolve("out.csv");
        Files.deleteIfExists(to);
        Files.deleteIfExists(folder.resolve("out.csv-metadata.json"));
        Object[] arguments = new Object[3 + more.length];
        arguments[0] = "convert";
        arguments[1] = file;
        arguments[2] = to;
        System.arraycopy(more, 0, arguments, 3, more.length);
        Ferry ferry = Ferry.run(arguments);
        assertThat(ferry.code()).as(ferry.err()).isZero();
        return Files.readString(to).replace("\r\n", "|");
    }

    private static final String BEDS =
            "{\"name\":\"garden\",\"crs\":{\"x\":1},\"features\":[{\"id\":1,\"t\":\"moss\"},{\"id\":2,\"t\":\"fern\"}]}";

    @Test
    void theOnlyListOfObjectsIsTheRecordsAndThatIsTold() throws Exception {
        Path file = file(BEDS);
        Ferry look = Ferry.run("look", file);
        assertThat(look.out()).contains("2 records", "the list /features", "left out: name, crs");
        assertThat(csv(file)).isEqualTo("id,t|1,moss|2,fern|");
    }

    @Test
    void whereRecordsAreCanBeTold() throws Exception {
        Path file = file("{\"a/b\":{\"rows\":[{\"n\":1}],\"others\":[{\"n\":2},{\"n\":3}]},\"z\":[1]}");
        assertThat(csv(file, "--from-setting", "record=/a~1b/others")).isEqualTo("n|2|3|");
        Path keyed = file("{\"beds\":{\"x\":{\"n\":1},\"y\":{\"n\":2}}}");
        assertThat(csv(keyed, "--from-setting", "record=/beds")).isEqualTo("key,n|x,1|y,2|");
        Ferry nowhere = Ferry.run("look", keyed, "--setting", "record=/plants");
        assertThat(nowhere.code()).isIn(2, 3);
        assertThat(nowhere.err()).contains("/plants");
        assertThat(Ferry.run("look", keyed, "--setting", "record=beds").err()).contains("JSON Pointer");
    }

    @Test
    void ofSeveralListsNoneIsChosenAndThatIsTold() throws Exception {
        Path file = file("{\"beds\":[{\"n\":1}],\"plants\":[{\"n\":2}]}");
        assertThat(Ferry.run("look", file).out()).contains("1 record", "takes one of them: /beds, /plants");
    }

    @Test
    void aFileThatIsCutShortBehindItsRecordsIsNotWhole() throws Exception {
        Path file = file(BEDS.substring(0, BEDS.length() - 1) + ",\"more\":[1,2");
        assertThat(Ferry.run("convert", file, folder.resolve("o.csv"), "--from-setting", "record=/features")
                        .code())
                .isEqualTo(3);
    }

    @ParameterizedTest
    @ValueSource(strings = {"csv", "jsonl", "json"})
    void aTableOfOneRecordWithAListComesBackAsThat(String ending) throws Exception {
        Path file = file("[{\"n\":1,\"features\":[{\"a\":1},{\"a\":2}]}]");
        Path there = folder.resolve("there." + ending);
        assertThat(Ferry.run(
                                "convert",
                                file,
                                there,
                                "--to-setting",
                                ending.equals("json") ? "shape=lines" : "null=",
                                "--overwrite")
                        .code())
                .isIn(0, 2);
        if (Files.exists(there)) {
            assertThat(csv(there)).isEqualTo("n,features|1,\"[{\"\"a\"\":1},{\"\"a\"\":2}]\"|");
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"jsonl", "json"})
    void aTableOfOneRecordOfNothingButObjectsComesBackAsThat(String ending) throws Exception {
        Path file = file("[{\"soil\":{\"n\":1},\"light\":{\"n\":2}}]");
        Path there = folder.resolve("there." + ending);
        Ferry convert = Ferry.run("convert", file, there, "--to-setting", "shape=lines");
        assertThat(convert.code()).as(convert.err()).isZero();
        assertThat(Files.readString(there)).isEqualTo("{\"soil\":{\"n\":1},\"light\":{\"n\":2}}\n");
        assertThat(csv(there)).isEqualTo("soil,light|\"{\"\"n\"\":1}\",\"{\"\"n\"\":2}\"|");
        assertThat(Ferry.run("reconcile", file, there).code()).isZero();
    }

    @Test
    void aLineIsARecordAlsoWhereNothingIsKnownOfIt() throws Exception {
        Path file = Files.writeString(folder.resolve("beds.jsonl"), "{\"b1\":{\"n\":1},\"b2\":{\"n\":2}}");
        assertThat(csv(file)).isEqualTo("b1,b2|\"{\"\"n\"\":1}\",\"{\"\"n\"\":2}\"|");
        assertThat(csv(file, "--from-setting", "shape=keyed")).isEqualTo("key,n|b1,1|b2,2|");
        assertThat(csv(file("{\"b1\":{\"n\":1},\"b2\":{\"n\":2}}"))).isEqualTo("key,n|b1,1|b2,2|");
    }

    @Test
    void oneRecordOfWrappedValuesIsNotTakenForRecordsByTheirKeys() throws Exception {
        Path file = file("{\"_id\":{\"$oid\":\"5f1d7f0a2b3c4d5e6f708192\"},\"n\":{\"$numberLong\":\"5\"}}");
        assertThat(csv(file)).isEqualTo("_id,n|5f1d7f0a2b3c4d5e6f708192,5|");
    }

    @Test
    void keyedRecordsKeepTheirKeysWhenTheyAreTakenApart() throws Exception {
        Path file = file(
                "{\"b1\":{\"t\":\"moss\",\"plants\":[{\"n\":1},{\"n\":2}]},\"b2\":{\"t\":\"fern\",\"plants\":[]}}");
        Path set = folder.resolve("set");
        Ferry convert = Ferry.run("convert", file, set, "--from-setting", "apart=true");
        assertThat(convert.code()).as(convert.err()).isZero();
        assertThat(Files.readString(set.resolve("data/garden.csv")).replace("\r\n", "|"))
                .isEqualTo("key,t|b1,moss|b2,fern|");
        assertThat(Files.readString(set.resolve("data/garden_plants.csv")).replace("\r\n", "|"))
                .isEqualTo("parent,place,n|b1,1,1|b1,2,2|");
    }

    @Test
    void listsOfRecordsWithoutAKeyReferToANumberThatIsThere() throws Exception {
        Path file = file("[{\"t\":\"moss\",\"plants\":[{\"n\":1}]},{\"t\":\"fern\",\"plants\":[{\"n\":2}]}]");
        Path set = folder.resolve("set");
        assertThat(Ferry.run("look", file, "--setting", "apart=true").out()).contains("garden");
        Ferry convert = Ferry.run("convert", file, set, "--from-setting", "apart=true");
        assertThat(convert.code()).as(convert.err()).isZero();
        assertThat(Files.readString(set.resolve("data/garden.csv")).replace("\r\n", "|"))
                .isEqualTo("record number,t|1,moss|2,fern|");
        assertThat(Files.readString(set.resolve("data/garden_plants.csv")).replace("\r\n", "|"))
                .isEqualTo("parent,place,n|1,1,1|2,1,2|");
    }
}
