package org.orderlyferry.documents.store;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.ValueText;

/**
 * Values as a store's documents have them: JSON, and an object of one name that begins with {@code @} for a type that JSON
 * has none for, such as {@code {"@date":"2031-04-09"}}. A name of somebody's own that begins so has another {@code @} in front.
 */
final class TypedJson {

    private static final String MARK = "@";
    private static final Map<TypeName, String> NAMES = Map.of(
            TypeName.DECIMAL, "@decimal",
            TypeName.DATE, "@date",
            TypeName.TIME, "@time",
            TypeName.TIMESTAMP, "@local",
            TypeName.TIMESTAMP_WITH_TIME_ZONE, "@moment",
            TypeName.UUID, "@uuid",
            TypeName.INTERVAL, "@duration");

    private static final String DOUBLE = "@double";
    private static final String BYTES = "@bytes";
    /** A JSON null, which is a value of a column of JSON, and not none. */
    private static final String JSON_NULL = "@json";

    private static final JsonFactory PARSERS = JsonFactory.builder()
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .build();

    private TypedJson() {}

    /** A name as it stands in a document. */
    static String escaped(String name) {
        return name.startsWith(MARK) ? MARK + name : name;
    }

    private static String plain(String name) {
        return name.startsWith("@@") ? name.substring(1) : name;
    }

    /**
     * Writes a value that is no null.
     *
     * @throws InvalidValueException if no document could hold it
     */
    static void write(JsonGenerator out, LogicalType type, Records batch, int row, int column)
            throws IOException, InvalidValueException {
        TypeName name = type.name();
        if (name.isBinary()) {
            wrap(out, BYTES, Base64.getEncoder().encodeToString(batch.copy(row, column)));
            return;
        }
        String text = batch.text(row, column);
        switch (name) {
            case BOOLEAN -> out.writeBoolean(text.equals("true"));
            case SMALLINT, INTEGER, BIGINT -> out.writeNumber(text);
            case REAL, DOUBLE -> {
                boolean plain = !text.equals("NaN") && !text.endsWith("INF") && !text.equals("-0.0");
                if (plain) {
                    out.writeNumber(text);
                } else {
                    wrap(out, DOUBLE, text);
                }
            }
            case JSON, ARRAY -> nested(out, text);
            default -> {
                String wrapper = NAMES.get(name);
                if (wrapper == null) {
                    out.writeString(text);
                } else {
                    wrap(out, wrapper, text);
                }
            }
        }
    }

    private static void wrap(JsonGenerator out, String name, String text) throws IOException {
        out.writeStartObject();
        out.writeStringField(name, text);
        out.writeEndObject();
    }

    private static void nested(JsonGenerator out, String text) throws IOException, InvalidValueException {
        if (text.strip().equals("null")) {
            wrap(out, JSON_NULL, "null");
            return;
        }
        JsonNode value;
        try (JsonParser in = PARSERS.createParser(text)) {
            value = Client.JSON.readTree(in);
            if (value == null || in.nextToken() != null) {
                throw new InvalidValueException("isn't one value of JSON");
            }
        } catch (com.fasterxml.jackson.core.JsonProcessingException e) {
            throw new InvalidValueException("is no JSON that a document could hold: " + e.getOriginalMessage());
        }
        Client.JSON.writeTree(out, escaped(value));
    }

    /** Whether an object is a value of a type. */
    private static boolean isTyped(JsonNode value) {
        if (value.size() != 1 || !value.isObject()) {
            return false;
        }
        String name = value.fieldNames().next();
        return value.path(name).isTextual()
                && (NAMES.containsValue(name) || name.equals(DOUBLE) || name.equals(BYTES) || name.equals(JSON_NULL));
    }

    private static JsonNode escaped(JsonNode value) {
        if (isTyped(value) || value.isValueNode()) {
            return value;
        }
        return mapped(value, TypedJson::escaped, TypedJson::escaped);
    }

    private static JsonNode plain(JsonNode value) {
        return isTyped(value) || value.isValueNode() ? value : mapped(value, TypedJson::plain, TypedJson::plain);
    }

    private static JsonNode mapped(
            JsonNode value,
            java.util.function.UnaryOperator<JsonNode> values,
            java.util.function.UnaryOperator<String> names) {
        if (value.isArray()) {
            ArrayNode array = JsonNodeFactory.instance.arrayNode();
            value.forEach(v -> array.add(values.apply(v)));
            return array;
        }
        ObjectNode object = JsonNodeFactory.instance.objectNode();
        value.properties().forEach(f -> object.set(names.apply(f.getKey()), values.apply(f.getValue())));
        return object;
    }

    /**
     * A value's text, or its bytes, for a column of a type; null for a null.
     *
     * @throws InvalidValueException if it is none of the type
     */
    static byte @Nullable [] read(JsonNode value, LogicalType type) throws InvalidValueException {
        if (value.isMissingNode() || value.isNull()) {
            return null;
        }
        TypeName name = type.name();
        if (name == TypeName.JSON || name == TypeName.ARRAY) {
            boolean isNull = isTyped(value) && value.has(JSON_NULL);
            return utf8(isNull ? "null" : plain(value).toString());
        }
        Optional<String> typed = isTyped(value) ? Optional.of(value.fieldNames().next()) : Optional.empty();
        String text = typed.map(t -> value.path(t).asText()).orElseGet(value::asText);
        boolean fits;
        if (name.isBinary()) {
            fits = typed.filter(BYTES::equals).isPresent();
        } else if (name.isApproximateNumber()) {
            fits = typed.isPresent() ? typed.get().equals(DOUBLE) : value.isNumber();
        } else if (name == TypeName.DECIMAL) {
            fits = typed.isPresent() ? typed.get().equals("@decimal") : value.isNumber();
        } else if (name.isExactNumber()) {
            fits = value.isIntegralNumber();
        } else if (name == TypeName.BOOLEAN) {
            fits = value.isBoolean();
        } else {
            fits = NAMES.containsKey(name)
                    ? typed.filter(NAMES.get(name)::equals).isPresent()
                    : value.isTextual();
        }
        if (!fits) {
            throw new InvalidValueException("is " + kind(value) + ", the column is " + type);
        }
        if (name.isBinary()) {
            try {
                return Base64.getDecoder().decode(text);
            } catch (IllegalArgumentException e) {
                throw new InvalidValueException("isn't Base64");
            }
        }
        return proper(text, type);
    }

    private static byte[] proper(String text, LogicalType type) throws InvalidValueException {
        ValueText form = ValueText.of(type);
        byte[] bytes = utf8(text);
        return form.isProper(bytes, 0, bytes.length) ? bytes : utf8(form.toProper(text));
    }

    private static byte[] utf8(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    /** What kind of value it is, in the store's own words. */
    static String kind(JsonNode value) {
        if (isTyped(value)) {
            return value.fieldNames().next();
        }
        return value.isIntegralNumber()
                ? "integer"
                : value.isNumber()
                        ? "number"
                        : value.isTextual()
                                ? "text"
                                : value.isBoolean() ? "boolean" : value.isArray() ? "array" : "object";
    }

    /** The type of columns whose values are all of a kind; nothing where that is JSON's own. */
    static Optional<LogicalType> type(String kind, int longest) {
        return switch (kind) {
            case "integer" -> Optional.of(LogicalType.BIGINT);
            case "number", DOUBLE -> Optional.of(LogicalType.DOUBLE);
            case "boolean" -> Optional.of(LogicalType.BOOLEAN);
            case "text" ->
                Optional.of(
                        longest <= SHORT
                                ? LogicalType.varchar(SHORT)
                                : longest <= LONG ? LogicalType.varchar(LONG) : LogicalType.CLOB);
            case BYTES -> Optional.of(LogicalType.BLOB);
            case "@decimal" -> Optional.of(LogicalType.of(TypeName.DECIMAL));
            case "@date" -> Optional.of(LogicalType.DATE);
            case "@time" -> Optional.of(LogicalType.of(TypeName.TIME, NANOSECONDS));
            case "@local" -> Optional.of(LogicalType.of(TypeName.TIMESTAMP, NANOSECONDS));
            case "@moment" -> Optional.of(LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, NANOSECONDS));
            case "@uuid" -> Optional.of(LogicalType.UUID);
            case "@duration" -> Optional.of(LogicalType.INTERVAL);
            default -> Optional.empty();
        };
    }

    private static final int SHORT = 255;
    private static final int LONG = 4_000;
    private static final int NANOSECONDS = 9;
}
