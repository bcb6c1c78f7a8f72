package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import javax.xml.XMLConstants;
import javax.xml.transform.stream.StreamSource;
import javax.xml.validation.SchemaFactory;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/** The herbarium, with all its hostile values, goes through every format and back. */
class FormatsTest {

    /** Settings without which a format loses something; what that is, the format's page says. */
    private static final Map<String, FileSettings> WHOLE = Map.of("XML", FileSettings.NONE.with("version", "1.1"));

    /** Tables that a format refuses, and why: the losses that its page lists. */
    private static final Map<String, Map<String, String>> REFUSED = Map.of(
            "spreadsheet", Map.of("calibration", "a cell of a spreadsheet holds 32767 characters"),
            "binary spreadsheet", Map.of("calibration", "a cell of a spreadsheet holds 32767 characters"),
            "OpenDocument spreadsheet", Map.of("label_draft", "XML 1.0, which such files are made of"),
            "desktop database",
                    Map.of(
                            "calibration", "the years 100 to 9999",
                            "label_draft", "begins with U+FEFF"),
            "xBase table",
                    Map.of(
                            "calibration", "its dates go from the year 1 to 9999",
                            "label_draft", "blanks fill a field up"));

    @TempDir
    static Path folder;

    private static Path old;

    @BeforeAll
    static void makeAHerbarium() throws Exception {
        old = folder.resolve("old.mv.db");
        new Herbarium().specimens(200).readings(300).create(old);
    }

    static Stream<FileFormat> formats() {
        return FileFormats.all().stream();
    }

    static Stream<List<FileFormat>> pairs() {
        return formats().flatMap(a -> formats().map(b -> List.of(a, b)));
    }

    private static FileSettings settings(FileFormat format) {
        return WHOLE.getOrDefault(format.name(), FileSettings.NONE);
    }

    private static Map<String, String> refused(FileFormat format) {
        return REFUSED.getOrDefault(format.name(), Map.of());
    }

    /** All tables that a format takes. */
    private static String[] taken(Place source, FileFormat format) {
        return source.tables().stream()
                .map(TableName::toString)
                .filter(t -> !refused(format).containsKey(t))
                .toArray(String[]::new);
    }

    private static void write(Place from, String table, Path to, FileFormat format) {
        OpenOptions options = OpenOptions.builder()
                .files(settings(format))
                .format(format.name())
                .build();
        try (TargetPlace target = Places.openTarget(PlaceAddress.of(to), options)) {
            Load.from(from).tables(table).mode(LoadMode.REPLACE).into(target);
        }
    }

    private static void mustBeEqual(Place one, Place other, String table) {
        var result = Reconcile.between(one, other).tables(table).compare();
        assertThat(result.isEqual()).as(result.toString()).isTrue();
    }

    @ParameterizedTest
    @MethodSource("formats")
    void everyTableComesBackFromAFileWithItsDefinition(FileFormat format) {
        try (Place source = Places.open(old.toString())) {
            for (TableName table : source.tables()) {
                Path file = folder.resolve(format.endings().get(0) + "-files")
                        .resolve("table " + table + "." + format.endings().get(0));
                String refused = refused(format).get(table.toString());
                if (refused != null) {
                    assertThatThrownBy(() -> write(source, table.toString(), file, format))
                            .isInstanceOf(BadValueException.class)
                            .hasMessageContaining(refused);
                    assertThat(file).doesNotExist();
                    continue;
                }
                write(source, table.toString(), file, format);
                try (Place back = Places.open(file.toString())) {
                    assertThat(back.system()).isEqualTo(format.name());
                    assertThat(back.tables()).containsExactly(table);
                    if (format.isDescribedBeside()) {
                        assertThat(back.define(table)).isEqualTo(source.define(table));
                    }
                    mustBeEqual(source, back, table.toString());
                }
            }
        }
    }

    @ParameterizedTest
    @MethodSource("formats")
    void aSetMayHaveFilesOfAnyFormat(FileFormat format) {
        Path set = folder.resolve(format.endings().get(0) + "-set");
        try (Place source = Places.open(old.toString())) {
            String[] tables = taken(source, format);
            Export.from(source)
                    .tables(tables)
                    .format(format, settings(format))
                    .lanes(2)
                    .to(set);
            try (Place back = Places.open(set.toString())) {
                back.verify();
                assertThat(back.tables()).extracting(TableName::toString).containsExactly(tables);
                for (String table : tables) {
                    mustBeEqual(source, back, table);
                }
            }
        }
    }

    @ParameterizedTest
    @MethodSource("formats")
    void aFileThatCanHoldsAllTablesAtOnce(FileFormat format) {
        if (!format.holdsSeveralTables()) {
            return;
        }
        Path file = folder.resolve("herbarium." + format.endings().get(0));
        try (Place source = Places.open(old.toString())) {
            String[] tables = taken(source, format);
            OpenOptions options = OpenOptions.builder().files(settings(format)).build();
            try (TargetPlace target = Places.openTarget(PlaceAddress.of(file), options)) {
                Load.from(source).tables(tables).into(target);
            }
            try (Place back = Places.open(file.toString())) {
                assertThat(back.tables()).extracting(TableName::toString).containsExactly(tables);
                for (String table : tables) {
                    TableName name = TableName.of(table);
                    if (format.isDescribedBeside()) {
                        assertThat(back.define(name)).isEqualTo(source.define(name));
                    }
                    mustBeEqual(source, back, table);
                }
            }
        }
    }

    @ParameterizedTest
    @MethodSource("pairs")
    void everyFormatConvertsToEveryOther(List<FileFormat> pair) {
        Path first = folder.resolve("pair." + pair.get(0).endings().get(0));
        Path second = folder.resolve("pair-2." + pair.get(1).endings().get(0));
        try (Place source = Places.open(old.toString())) {
            for (String table : List.of("specimen", "label_draft")) {
                if (pair.stream().anyMatch(f -> refused(f).containsKey(table))) {
                    continue;
                }
                write(source, table, first, pair.get(0));
                try (Place from = Places.open(first.toString())) {
                    write(from, table, second, pair.get(1));
                }
                try (Place to = Places.open(second.toString())) {
                    mustBeEqual(source, to, table);
                }
            }
        }
    }

    @Test
    void xmlIsValidByItsSchema() throws Exception {
        // XML Schema 1.0, which the JDK has, knows no year 0
        Path common = folder.resolve("common.mv.db");
        new Herbarium().specimens(200).readings(300).commonDates(true).create(common);
        for (String style : List.of("elements", "attributes")) {
            Path file = folder.resolve("valid-" + style + ".xml");
            OpenOptions options = OpenOptions.builder()
                    .files(FileSettings.NONE.with("version", "1.1").with("style", style))
                    .build();
            try (Place source = Places.open(common.toString());
                    TargetPlace target = Places.openTarget(PlaceAddress.of(file), options)) {
                Load.from(source).into(target);
                try (Place back = Places.open(file.toString())) {
                    mustBeEqual(source, back, "*");
                }
            }
            SchemaFactory.newInstance(XMLConstants.W3C_XML_SCHEMA_NS_URI)
                    .newSchema(folder.resolve("valid-" + style + ".xsd").toFile())
                    .newValidator()
                    .validate(new StreamSource(file.toFile()));
        }
    }

    @Test
    void aSchemaAloneTellsTypesAndKeys() throws Exception {
        Path xml = folder.resolve("bare.xml");
        Path json = folder.resolve("bare.json");
        try (Place source = Places.open(old.toString())) {
            for (Path file : List.of(xml, json)) {
                write(
                        source,
                        "loan_item",
                        file,
                        FileFormats.ofEnding(file.toString().replaceFirst(".*\\.", ""))
                                .orElseThrow());
                Files.delete(Path.of(file + "-metadata.json"));
            }
        }
        assertThat(Ferry.run("look", xml).out())
                .contains("loan_item  ", "INTEGER", "BIGINT", "BOOLEAN", "loan + specimen (taken as primary key)")
                .doesNotContain("proposed");
        assertThat(Ferry.run("look", json).out())
                .contains("bare  ", "INTEGER", "BIGINT", "BOOLEAN")
                .doesNotContain("proposed");
        Path elsewhere = Files.createDirectory(folder.resolve("schemas"));
        for (String schema : List.of("bare.xsd", "bare.schema.json")) {
            Files.move(folder.resolve(schema), elsewhere.resolve(schema));
        }
        assertThat(Ferry.run("look", xml).out()).contains("proposed");
        assertThat(Ferry.run("look", xml, "--definitions", elsewhere.resolve("bare.xsd"))
                        .out())
                .doesNotContain("proposed");
        assertThat(Ferry.run("look", json, "--definitions", elsewhere.resolve("bare.schema.json"))
                        .out())
                .doesNotContain("proposed");
    }

    @Test
    void jsonIsValidByItsSchema() throws Exception {
        ObjectMapper mapper = new ObjectMapper();
        JsonSchemaFactory factory = JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012);
        try (Place source = Places.open(old.toString())) {
            for (String shape : List.of("array", "keyed")) {
                for (String table : List.of("specimen", "taxon")) {
                    Path file = folder.resolve(shape + "-" + table + ".json");
                    OpenOptions options = OpenOptions.builder()
                            .files(FileSettings.NONE.with("shape", shape))
                            .build();
                    try (TargetPlace target = Places.openTarget(PlaceAddress.of(file), options)) {
                        Load.from(source).tables(table).into(target);
                    }
                    JsonNode schema = mapper.readTree(
                            folder.resolve(shape + "-" + table + ".schema.json").toFile());
                    JsonSchema compiled = factory.getSchema(schema);
                    assertThat(compiled.validate(mapper.readTree(file.toFile())))
                            .isEmpty();
                    try (Place back = Places.open(file.toString())) {
                        mustBeEqual(source, back, table);
                    }
                }
            }
        }
    }
}
