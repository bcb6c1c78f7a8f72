package org.orderlyferry.format.json;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/** A table's definition as a JSON Schema of draft 2020-12: of the whole file, or of each of its lines. */
final class JsonSchemaWriter {

    private static final ObjectMapper MAPPER =
            JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

    private JsonSchemaWriter() {}

    static byte[] write(TableDefinition table, Shape shape, boolean wrapped) {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("$schema", "https://json-schema.org/draft/2020-12/schema");
        root.put("title", table.name().toString());
        if (!table.comment().isEmpty()) {
            root.put("description", table.comment());
        }
        ObjectNode record =
                switch (shape) {
                    case LINES -> root;
                    case ARRAY -> root.put("type", "array").putObject("items");
                    case KEYED -> root.put("type", "object").putObject("additionalProperties");
                };
        record.put("type", "object");
        ObjectNode properties = record.putObject("properties");
        ArrayNode required = JsonNodeFactory.instance.arrayNode();
        for (ColumnDefinition column : table.columns()) {
            property(properties.putObject(column.name()), column, wrapped);
            if (!column.nullable()) {
                required.add(column.name());
            }
        }
        if (shape == Shape.KEYED) {
            // a record's key stands in front of it
            table.primaryKey().ifPresent(key -> {
                properties.remove(key.columns());
                required.removeAll();
            });
        }
        if (!required.isEmpty()) {
            record.set("required", required);
        }
        record.put("additionalProperties", false);
        try {
            return MAPPER.writeValueAsBytes(root);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a tree can always be written", e);
        }
    }

    private static void property(ObjectNode node, ColumnDefinition column, boolean wrapped) {
        LogicalType type = column.type();
        if (!column.comment().isEmpty()) {
            node.put("description", column.comment());
        }
        if (wrapped && Wrapper.json(type, "").isPresent()) {
            types(node, column, "object");
            return;
        }
        switch (type.name()) {
            case BOOLEAN -> types(node, column, "boolean");
            case SMALLINT -> integer(node, column, Short.MIN_VALUE, Short.MAX_VALUE);
            case INTEGER -> integer(node, column, Integer.MIN_VALUE, Integer.MAX_VALUE);
            case BIGINT -> integer(node, column, Long.MIN_VALUE, Long.MAX_VALUE);
            case DECIMAL -> types(node, column, "number");
            case REAL, DOUBLE -> {
                ArrayNode any = node.putArray("anyOf");
                any.addObject().put("type", "number");
                any.addObject().putArray("enum").add("NaN").add("INF").add("-INF");
                if (column.nullable()) {
                    any.addObject().put("type", "null");
                }
            }
            case BINARY, VARBINARY, BLOB -> {
                types(node, column, "string");
                node.put("contentEncoding", "base64");
            }
            case JSON -> {
                // anything at all
            }
            case ARRAY -> types(node, column, "array");
            default -> text(node, column);
        }
    }

    private static void integer(ObjectNode node, ColumnDefinition column, long least, long most) {
        types(node, column, "integer");
        node.put("minimum", least).put("maximum", most);
    }

    private static void text(ObjectNode node, ColumnDefinition column) {
        types(node, column, "string");
        LogicalType type = column.type();
        if (type.name().isText() && type.isSized()) {
            node.put("maxLength", type.size());
        }
        switch (type.name()) {
            case DATE -> node.put("format", "date");
            case TIMESTAMP_WITH_TIME_ZONE -> node.put("format", "date-time");
            case UUID -> node.put("format", "uuid");
            case INTERVAL -> node.put("format", "duration");
            default -> {
                // a time without a zone has no format in JSON Schema
            }
        }
        column.enumeration().ifPresent(e -> {
            ArrayNode values = node.putArray("enum");
            e.values().forEach(values::add);
            if (column.nullable()) {
                values.addNull();
            }
        });
    }

    private static void types(ObjectNode node, ColumnDefinition column, String type) {
        if (column.nullable()) {
            node.putArray("type").add(type).add("null");
        } else {
            node.put("type", type);
        }
    }
}
