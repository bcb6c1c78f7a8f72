package org.orderlyferry.crossing;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** The page of a crossing's keys says what the schema says. */
class CrossingPageTest {

    private static final Path PAGE = Path.of("..", "docs", "crossing.md");

    @Test
    void thePageIsThatOfTheSchema() throws Exception {
        String page = page();
        if (Boolean.getBoolean("ferry.write.docs")) {
            Files.writeString(PAGE, page);
        }
        assertThat(Files.readString(PAGE)).isEqualTo(page);
    }

    private static String page() throws Exception {
        JsonNode schema;
        try (InputStream in = Crossing.class.getResourceAsStream("crossing.schema.json")) {
            schema = new ObjectMapper().readTree(in);
        }
        StringBuilder page = new StringBuilder(
                """
                # A crossing's file

                `ferry draft` writes it, with what speaks for each choice; `ferry check`, `run`, `undo` and `watch` read it. It is
                YAML, in UTF-8. A wrong name or value is told with its line, its column and the nearest right name; nothing that isn't
                known is passed over. Its JSON Schema (2020-12) is
                [crossing.schema.json](../orderly-ferry-core/src/main/resources/org/orderlyferry/crossing/crossing.schema.json), by
                which editors complete and check it. This page is printed from the schema and compared with it by a test. To write
                it anew: `mvn test -pl orderly-ferry-core -Dtest=CrossingPageTest -Dferry.write.docs=true`.

                """);
        section(page, "The file", schema);
        section(page, "A table", schema.at("/properties/tables/additionalProperties"));
        section(
                page,
                "A column",
                schema.at("/properties/tables/additionalProperties/properties/columns/additionalProperties"));
        section(page, "A statement of `before` or `after`", schema.at("/properties/before/items"));
        section(page, "`arrivals`", schema.at("/properties/arrivals"));
        return page.toString().stripTrailing() + "\n";
    }

    private static void section(StringBuilder page, String heading, JsonNode node) {
        page.append("## ").append(heading).append("\n\n| key | is | what it says |\n|---|---|---|\n");
        List<String> required = new ArrayList<>();
        node.path("required").forEach(r -> required.add(r.asText()));
        node.path("properties").properties().forEach(p -> page.append("| `")
                .append(p.getKey())
                .append("`")
                .append(required.contains(p.getKey()) ? ", needed" : "")
                .append(" | ")
                .append(kind(p.getValue()))
                .append(" | ")
                .append(p.getValue().path("description").asText())
                .append(" |\n"));
        page.append("\n");
    }

    private static String kind(JsonNode value) {
        if (value.has("const")) {
            return "`" + value.get("const").asText() + "`";
        }
        if (value.has("enum")) {
            List<String> words = new ArrayList<>();
            value.get("enum").forEach(w -> {
                if (!w.isNull()) {
                    words.add("`" + w.asText() + "`");
                }
            });
            return String.join(", ", words);
        }
        JsonNode type = value.path("type");
        String first = type.isArray() ? type.get(0).asText() : type.asText();
        return switch (first) {
            case "integer" -> "a whole number from " + value.path("minimum").asText() + " on";
            case "boolean" -> "`true`, `false`";
            case "array" -> "a list";
            case "object" -> "keys";
            default -> "a text";
        };
    }
}
