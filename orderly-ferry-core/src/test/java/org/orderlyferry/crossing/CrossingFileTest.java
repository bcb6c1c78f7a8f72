package org.orderlyferry.crossing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.dataformat.yaml.YAMLMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import com.networknt.schema.ValidationMessage;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.io.Compression;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.reconcile.ComparisonRule;
import org.orderlyferry.reconcile.Depth;

/** A crossing's file: written, read again, and held against its schema. */
class CrossingFileTest {

    private static final ObjectMapper JSON = new ObjectMapper();
    private static final YAMLMapper YAML = new YAMLMapper();

    private static JsonNode schemaFile() throws IOException {
        try (InputStream in = Crossing.class.getResourceAsStream("crossing.schema.json")) {
            return JSON.readTree(in);
        }
    }

    private static Set<ValidationMessage> faults(String file) throws IOException {
        JsonSchema schema =
                JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012).getSchema(schemaFile());
        return schema.validate(YAML.readTree(file));
    }

    private static CrossingTable table(String name, String to, String column, String columnTo) {
        return new CrossingTable(
                TableName.of(name),
                TableName.of(to),
                "",
                "",
                "",
                List.of(new CrossingColumn(column, columnTo, "DECIMAL(12,2)")),
                List.of());
    }

    private static Crossing everything(Path folder) {
        CrossingTable table = new CrossingTable(
                new TableName("old", "loan"),
                new TableName("new", "loan"),
                "\"due\" > '2020-01-01'",
                "id",
                "changed",
                List.of(
                        new CrossingColumn("id", "loan_id", "INTEGER"),
                        new CrossingColumn("changed", "changed", "DATE")),
                List.of("note: #1"),
                new OwnChoices(Optional.of(LoadMode.APPEND), Optional.of(Depth.COUNTS), OptionalLong.of(4)));
        CrossingTable other = table("other", "other", "id", "id");
        return Crossing.between(
                        "jdbc:h2:./old;PASSWORD=${env:OLD}",
                        folder.resolve("new.sqlite").toString())
                .keep(folder.resolve("kept"))
                .onto(LoadMode.MERGE)
                .sourceMoment(SourceMoment.STILL)
                .lanes(3)
                .sliceRows(17)
                .sliceBytes(4_711)
                .pace(5, 7)
                .compress(Compression.ZSTD)
                .outOfRange(OutOfRange.NULL)
                .rejectsAllowed(2)
                .makeMissing(true)
                .proof(Depth.ROWS)
                .rules(List.of(ComparisonRule.parse("places=2"), ComparisonRule.parse("without=a: b")))
                .backup(false)
                .followDeletes(true)
                .before(List.of(new TargetStatement("SELECT 1 -- \"a\": b", "")))
                .after(List.of(new TargetStatement("ANALYZE", "SELECT 'it''s'")))
                .arrivals(new Arrivals(
                        folder.resolve("in"),
                        "loan-*.csv",
                        Duration.ofSeconds(3),
                        ".done",
                        1,
                        9,
                        folder.resolve("taken"),
                        null))
                .tables(List.of(table, other))
                .build();
    }

    @Test
    void allThatACrossingSaysIsWrittenAndReadAgain(@TempDir Path folder) throws Exception {
        Path file = folder.resolve("crossing.yaml");
        Crossing crossing = everything(folder);
        crossing.write(file);
        Crossing read = Crossing.read(file);
        assertThat(CrossingJson.of(read)).isEqualTo(CrossingJson.of(crossing));
        assertThat(read.tables()).isEqualTo(crossing.tables());
        assertThat(read.modes()).isEqualTo(new LoadModes(LoadMode.MERGE, Map.of("new.loan", LoadMode.APPEND)));
        assertThat(read.arrivals()).isEqualTo(crossing.arrivals());
        assertThat(read.keep()).isEqualTo(crossing.keep());
        assertThat(List.of(read.lanes(), read.rowsPerSecond(), read.bytesPerSecond()))
                .isEqualTo(List.of(3, 5L, 7L));
        assertThat(faults(Files.readString(file))).isEmpty();
    }

    @Provide
    Arbitrary<String> names() {
        return Arbitraries.oneOf(
                Arbitraries.strings().ofMinLength(1).ofMaxLength(12).filter(s -> isText(s)),
                Arbitraries.of(
                        "true", "No", "~", "null", "- a", "a: b", "#x", "'", "\"", "{a}", "&a", "*a", "!a", "%a", "@",
                        "`"),
                Arbitraries.of(
                        "\u2028",
                        "\u0000x",
                        "1",
                        "1e3",
                        "0x1F",
                        "12:30",
                        "=",
                        "<<",
                        "\ud83c\udf3f",
                        " a ",
                        "a\nb",
                        "\t",
                        "a.b",
                        ".",
                        "\"a\".\"b\"",
                        ".a",
                        "a."));
    }

    /** No half of a surrogate pair, which no file can hold. */
    private static boolean isText(String text) {
        return text.equals(new String(
                text.getBytes(java.nio.charset.StandardCharsets.UTF_8), java.nio.charset.StandardCharsets.UTF_8));
    }

    @Property(tries = 500)
    void whateverThingsAreCalledTheFileSaysIt(
            @ForAll("names") String table, @ForAll("names") String column, @ForAll("names") String condition)
            throws Exception {
        Path folder = Files.createTempDirectory("crossing");
        Path file = folder.resolve("crossing.yaml");
        CrossingTable one = table(table, column, column, table);
        Crossing crossing = Crossing.between("a.sqlite", "b.sqlite")
                .tables(List.of(new CrossingTable(
                        one.name(), one.to(), condition, column, table, one.columns(), List.of(condition))))
                .build();
        crossing.write(file);
        assertThat(Crossing.read(file).tables()).isEqualTo(crossing.tables());
        Files.delete(file);
        Files.delete(folder);
    }

    /** All keys of the schema, each as its path. */
    private static void keys(JsonNode node, String path, List<String> found) {
        node.path("properties").properties().forEach(p -> {
            found.add(path + p.getKey());
            keys(p.getValue(), path + p.getKey() + "/", found);
        });
        if (node.path("additionalProperties").isObject()) {
            keys(node.get("additionalProperties"), path + "*/", found);
        }
        if (node.has("items")) {
            keys(node.get("items"), path + "-/", found);
        }
    }

    @Test
    void theSchemaKnowsTheKeysThatTheReaderKnowsAndNoOthers(@TempDir Path folder) throws Exception {
        Path file = folder.resolve("crossing.yaml");
        everything(folder).write(file);
        List<String> inSchema = new ArrayList<>();
        keys(schemaFile(), "", inSchema);
        List<String> written = new ArrayList<>();
        paths(YAML.readTree(Files.readString(file)), "", written);
        assertThat(new HashSet<>(written)).isEqualTo(new HashSet<>(inSchema));
    }

    private static void paths(JsonNode node, String path, List<String> found) {
        boolean named = path.equals("tables/") || path.endsWith("columns/");
        node.properties().forEach(p -> {
            if (!named) {
                found.add(path + p.getKey());
            }
            paths(p.getValue(), path + (named ? "*" : p.getKey()) + "/", found);
        });
        if (node.isArray()) {
            node.forEach(n -> paths(n, path + "-/", found));
        }
    }

    @Test
    void whatTheSchemaRefusesTheReaderRefuses(@TempDir Path folder) throws Exception {
        Path file = folder.resolve("crossing.yaml");
        everything(folder).write(file);
        String good = Files.readString(file);
        String[][] wrong = {
            {"lanes: 3", "lanes: 0"},
            {"lanes: 3", "lains: 3"},
            {"onto: merge", "onto: upsert"},
            {"    onto: append", "    onto: upsert"},
            {"    proof: counts", "    proof: glance"},
            {"    rejects-allowed: 4", "    rejects-allowed: -4"},
            {"backup: false", "backup: maybe"},
            {"  pattern: .*", "  pattern: \"\""},
            {"type: INTEGER", "kind: INTEGER"},
            {"slice-rows: 17", "slice-rows: 17.5"},
            {"slice-bytes: 4711", "slice-bytes: 0"},
            {"run: ANALYZE", "sql: ANALYZE"},
            {"crossing: 1", "crossing: 2"},
        };
        for (String[] one : wrong) {
            String bad = good.replaceFirst(one[0], one[1]);
            assertThat(bad).isNotEqualTo(good);
            assertThat(faults(bad)).as(one[1]).isNotEmpty();
            Files.writeString(file, bad);
            assertThatThrownBy(() -> Crossing.read(file))
                    .as(one[1])
                    .isInstanceOf(FerryException.class)
                    .hasMessageContaining("line ");
        }
    }

    @Property(tries = 300)
    void whateverIsInAFileItIsReadOrRefused(@ForAll String any) throws Exception {
        Path file = Files.createTempFile("crossing", ".yaml");
        try {
            Files.write(file, any.getBytes(java.nio.charset.StandardCharsets.UTF_8));
            assertThatThrownBy(() -> Crossing.read(file)).isInstanceOf(MalformedFileException.class);
        } finally {
            Files.delete(file);
        }
    }
}
