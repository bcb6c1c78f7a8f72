package org.orderlyferry.format.json;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;

/** A JSON Schema of somebody else's as a table's definition: what it says of the properties of a record. */
final class JsonSchemaReader {

    private final String shown;

    JsonSchemaReader(String shown) {
        this.shown = shown;
    }

    TableDefinition read(JsonNode root, String name) {
        JsonNode record = record(root, root);
        Set<String> required = new HashSet<>();
        record.path("required").forEach(n -> required.add(n.asText()));
        TableDefinition.Builder table =
                TableDefinition.named(name).comment(root.path("description").asText(""));
        List<ColumnDefinition> columns = new ArrayList<>();
        for (Map.Entry<String, JsonNode> property : record.path("properties").properties()) {
            JsonNode node = resolved(root, property.getValue());
            Set<String> types = types(node);
            columns.add(ColumnDefinition.named(property.getKey(), type(node, types))
                    .nullable(!required.contains(property.getKey()) || types.contains("null"))
                    .comment(node.path("description").asText(""))
                    .enumeration(enumeration(node, types))
                    .build());
        }
        if (columns.isEmpty()) {
            throw new UsageException("the schema " + shown + " names no properties of a record");
        }
        return table.columns(columns).build();
    }

    private static JsonNode record(JsonNode root, JsonNode node) {
        JsonNode schema = resolved(root, node);
        if (schema.has("properties")) {
            return schema;
        }
        if (schema.has("items")) {
            return record(root, schema.get("items"));
        }
        return schema.path("additionalProperties").isObject()
                ? record(root, schema.get("additionalProperties"))
                : schema;
    }

    private static JsonNode resolved(JsonNode root, JsonNode node) {
        String reference = node.path("$ref").asText("");
        return reference.startsWith("#") ? root.at(reference.substring(1)) : node;
    }

    private static Set<String> types(JsonNode node) {
        Set<String> types = new HashSet<>();
        JsonNode type = node.path("type");
        if (type.isTextual()) {
            types.add(type.asText());
        }
        type.forEach(t -> types.add(t.asText()));
        for (String several : List.of("anyOf", "oneOf")) {
            node.path(several).forEach(n -> types.addAll(types(n)));
        }
        return types;
    }

    private static LogicalType type(JsonNode node, Set<String> types) {
        Set<String> kinds = new HashSet<>(types);
        kinds.remove("null");
        if (kinds.equals(Set.of("integer"))) {
            boolean bounded = node.has("minimum") && node.has("maximum");
            if (bounded
                    && node.get("minimum").asLong() >= Integer.MIN_VALUE
                    && node.get("maximum").asLong() <= Integer.MAX_VALUE) {
                return LogicalType.INTEGER;
            }
            return LogicalType.BIGINT;
        }
        if (kinds.equals(Set.of("number"))) {
            return node.has("anyOf") ? LogicalType.DOUBLE : LogicalType.of(TypeName.DECIMAL);
        }
        if (kinds.equals(Set.of("boolean"))) {
            return LogicalType.BOOLEAN;
        }
        if (kinds.equals(Set.of("string"))) {
            return text(node);
        }
        return LogicalType.JSON;
    }

    private static LogicalType text(JsonNode node) {
        if (node.path("contentEncoding").asText("").equals("base64")) {
            return LogicalType.BLOB;
        }
        return switch (node.path("format").asText("")) {
            case "date" -> LogicalType.DATE;
            case "date-time" -> LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE);
            case "uuid" -> LogicalType.UUID;
            case "duration" -> LogicalType.INTERVAL;
            default ->
                node.has("maxLength")
                        ? LogicalType.varchar(node.get("maxLength").asInt())
                        : LogicalType.CLOB;
        };
    }

    private static Optional<Enumeration> enumeration(JsonNode node, Set<String> types) {
        if (!node.has("enum") || !types.contains("string")) {
            return Optional.empty();
        }
        List<String> values = new ArrayList<>();
        node.get("enum").forEach(n -> {
            if (n.isTextual()) {
                values.add(n.asText());
            }
        });
        return Optional.of(new Enumeration("", values));
    }
}
