package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;

/** Delimited files that other programs have described in W3C CSV on the Web are read as the descriptions say. */
class CsvwTest {

    @TempDir
    Path folder;

    @TempDir
    Path elsewhere;

    @BeforeEach
    void theirs() throws Exception {
        Files.writeString(
                folder.resolve("chamber.csv"),
                """
                Quillmoor Herbarium; of 2031
                ;Kammer;Höhe;Pflanzen;Stand;Pflege
                ;;(cm);;;
                # the old cellar
                x;  K1;1.250,5;"moss|fern|small; wet";-;yes
                y;K2;;;2031-04-09;
                z;K3;n/a;lichen;;no
                """);
        Files.writeString(folder.resolve("reading.csv"), "chamber,value\r\nK1,\"1,204.50\"\r\nK2,3\r\n#K3,1\r\n");
        Files.writeString(
                folder.resolve("csv-metadata.json"),
                """
                {"@context": ["http://www.w3.org/ns/csvw", {"@language": "de"}],
                 "tables": [
                  {"url": "chamber.csv",
                   "dialect": {"delimiter": ";", "skipRows": 1, "headerRowCount": 2, "skipColumns": 1,
                               "trim": "start", "lineTerminators": "\\n"},
                   "tableSchema": {
                     "primaryKey": "chamber", "null": ["", "n/a"],
                     "columns": [
                       {"name": "chamber", "titles": {"en": "Chamber", "de": ["Kammer"]}, "required": true,
                        "datatype": {"base": "string", "maxLength": 4}},
                       {"name": "height_cm", "titles": ["Height", "Höhe"],
                        "datatype": {"base": "decimal", "format": {"decimalChar": ",", "groupChar": "."}}},
                       {"name": "plants", "titles": "Pflanzen", "separator": "|"},
                       {"name": "checked", "titles": "Stand", "datatype": "date", "null": "-", "default": "2030-01-01"},
                       {"name": "kept", "titles": "Pflege", "datatype": {"base": "boolean", "format": "yes|no"}},
                       {"name": "page", "virtual": true, "valueUrl": "https://herbarium.example/{chamber}"}]}},
                  {"url": "reading.csv",
                   "dialect": {"commentPrefix": null},
                   "tableSchema": {
                     "columns": [
                       {"name": "chamber", "datatype": "string"},
                       {"name": "value", "datatype": {"base": "decimal", "format": "#,##0.00"}}],
                     "foreignKeys": [{"columnReference": "chamber",
                       "reference": {"resource": "chamber.csv", "columnReference": "chamber"}}]}}]}
                """);
    }

    @Test
    void aForeignDescriptionIsFollowedToTheLetter() throws Exception {
        Path to = folder.resolve("out.jsonl");
        Ferry ferry = Ferry.run("convert", folder.resolve("chamber.csv"), to);
        assertThat(ferry.code()).as(ferry.err()).isZero();
        assertThat(Files.readString(to))
                .isEqualTo(
                        """
                        {"Chamber":"K1","Height":1250.5,"Pflanzen":["moss","fern","small; wet"],"Stand":null,"Pflege":true}
                        {"Chamber":"K2","Height":null,"Pflanzen":[],"Stand":"2031-04-09","Pflege":null}
                        {"Chamber":"K3","Height":null,"Pflanzen":["lichen"],"Stand":"2030-01-01","Pflege":false}
                        """);
        assertThat(ferry.out()).contains("1 line that begins with # (line 4) held no record");
    }

    @ParameterizedTest
    @ValueSource(strings = {"\"resource\": \"chamber.csv\"", "\"schemaReference\": \"#chamber\""})
    void referencesInCsvwsOwnWordsAreKept(String reference) throws Exception {
        Path description = folder.resolve("csv-metadata.json");
        Files.writeString(
                description,
                Files.readString(description)
                        .replace("\"resource\": \"chamber.csv\"", reference)
                        .replace("\"primaryKey\": \"chamber\"", "\"@id\": \"#chamber\", \"primaryKey\": \"chamber\""));
        try (Place place = Places.open(folder.toString())) {
            TableDefinition reading = place.define(TableName.of("reading"));
            assertThat(reading.foreignKeys()).singleElement().satisfies(key -> {
                assertThat(key.columns()).containsExactly("chamber");
                assertThat(key.target()).isEqualTo(TableName.of("chamber"));
                assertThat(key.targetColumns()).containsExactly("Chamber");
            });
            assertThat(place.define(TableName.of("chamber"))
                            .primaryKey()
                            .orElseThrow()
                            .columns())
                    .containsExactly("Chamber");
        }
        // the reading of chamber #K3 refers to none
        Ferry load = Ferry.run("load", folder, elsewhere.resolve("new.mv.db"));
        assertThat(load.out() + load.err()).contains("#K3");
    }

    @Test
    void headingsThatAreNoTitlesAreRefused() throws Exception {
        Path file = folder.resolve("chamber.csv");
        Files.writeString(file, Files.readString(file).replace("Kammer", "Keller"));
        Ferry ferry = Ferry.run("convert", file, folder.resolve("out.jsonl"));
        assertThat(ferry.code()).isEqualTo(3);
        assertThat(ferry.err()).contains("missing in the file: Chamber", "not in the definition: Keller");
        assertThat(Ferry.run(
                                "convert",
                                file,
                                folder.resolve("in-order.jsonl"),
                                "--from-setting",
                                "columnOrder=description")
                        .code())
                .isZero();
    }

    @Test
    void whatALookFoundOutIsDescribedSo() throws Exception {
        Path file = Files.writeString(
                folder.resolve("label.txt"),
                "of 2031\nno|name|name\n|Latin|common\n1|Sphagnum|moss\n2|Dryopteris|fern\n");
        Path description = folder.resolve("label.txt-metadata.json");
        Ferry look = Ferry.run(
                "look",
                file,
                "--setting",
                "skipRows=1",
                "--setting",
                "headerRowCount=2",
                "--write-definitions",
                description);
        assertThat(look.out()).as(look.err()).contains("2 records", "name Latin", "name common");
        Path to = folder.resolve("label.jsonl");
        assertThat(Ferry.run("convert", file, to).code()).isZero();
        assertThat(Files.readAllLines(to))
                .containsExactly(
                        "{\"no\":1,\"name Latin\":\"Sphagnum\",\"name common\":\"moss\"}",
                        "{\"no\":2,\"name Latin\":\"Dryopteris\",\"name common\":\"fern\"}");
        Ferry back = Ferry.run("convert", to, folder.resolve("back.csv"), "--to-setting", "skipRows=1");
        assertThat(back.err()).contains("are for reading");
    }

    @Test
    void oneTablesDescriptionNeedsNoMoreThanTheUsualWords() throws Exception {
        Path file = Files.writeString(elsewhere.resolve("moss.csv"), "id;Name\n1;'a;b'\n");
        Files.writeString(
                elsewhere.resolve("moss.csv-metadata.json"),
                """
                {"@context": "http://www.w3.org/ns/csvw", "url": "moss.csv",
                 "dialect": {"delimiter": ";", "quoteChar": "'"},
                 "tableSchema": {"primaryKey": "id", "columns": [
                   {"name": "id", "titles": ["id"], "datatype": "integer", "required": true},
                   {"name": "name", "titles": {"en": "Name"}, "datatype": {"base": "string", "maxLength": 9}}]}}
                """);
        try (Place place = Places.open(file.toString())) {
            TableDefinition table = place.define(TableName.of("moss"));
            assertThat(table.primaryKey().orElseThrow().columns()).containsExactly("id");
            assertThat(table.column("Name").orElseThrow().type()).isEqualTo(LogicalType.varchar(9));
        }
        Path to = elsewhere.resolve("moss.jsonl");
        assertThat(Ferry.run("convert", file, to).code()).isZero();
        assertThat(Files.readString(to)).isEqualTo("{\"id\":1,\"Name\":\"a;b\"}\n");
    }

    @Test
    void aDescribedFileInAWrongEncodingIsShownToo() throws Exception {
        Path file = folder.resolve("chamber.csv");
        Files.write(file, Files.readString(file).getBytes(StandardCharsets.ISO_8859_1));
        Ferry look = Ferry.run("look", file, "--encoding", "UTF-8");
        assertThat(look.out() + look.err()).contains("0xF6 isn't valid UTF-8", "after ';Kammer;H'");
        assertThat(Ferry.run("convert", file, elsewhere.resolve("out.jsonl"), "--from-setting", "encoding=ISO-8859-1")
                        .code())
                .isZero();
    }
}
