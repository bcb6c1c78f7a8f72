package org.orderlyferry.format.json;

import com.fasterxml.jackson.databind.JsonNode;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Optional;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.ExactNumber;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;

/**
 * Objects with one name that begins with a {@code $}, by which the exports of document databases carry what JSON has no
 * values for: {@code {"$numberLong": "5"}}.
 *
 * @param type which type it stands for
 * @param text the value text; of binary values, base64
 */
record Wrapper(LogicalType type, String text) {

    /** What the names of such objects begin with. */
    static final String MARK = "$";

    /** What an object stands for; empty where it is just an object. */
    static Optional<Wrapper> of(JsonNode node) {
        if (!node.isObject() || node.isEmpty() || node.size() > 2) {
            return Optional.empty();
        }
        String name = node.fieldNames().next();
        JsonNode inner = node.get(name);
        try {
            return Optional.ofNullable(
                    switch (name) {
                        case "$numberLong" -> new Wrapper(LogicalType.BIGINT, inner.asText());
                        case "$numberInt" -> new Wrapper(LogicalType.INTEGER, inner.asText());
                        case "$numberDecimal" ->
                            new Wrapper(
                                    LogicalType.of(TypeName.DECIMAL),
                                    ExactNumber.of(inner.asText()).toPlainString());
                        case "$numberDouble" -> new Wrapper(LogicalType.DOUBLE, doubled(inner.asText()));
                        case "$oid" -> new Wrapper(LogicalType.varchar(24), inner.asText());
                        case "$uuid" -> new Wrapper(LogicalType.UUID, inner.asText());
                        case "$date" ->
                            new Wrapper(LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 3), instant(inner));
                        case "$binary" -> binary(node, inner);
                        default -> null;
                    });
        } catch (RuntimeException | InvalidValueException e) {
            // looks like one and isn't: it stays the object that it is
            return Optional.empty();
        }
    }

    private static String doubled(String text) {
        return switch (text) {
            case "Infinity" -> "INF";
            case "-Infinity" -> "-INF";
            default -> JavaValues.text(Double.parseDouble(text));
        };
    }

    private static String instant(JsonNode inner) {
        JsonNode number = inner.isObject() ? inner.path("$numberLong") : inner;
        if (inner.isTextual()) {
            return JavaValues.text(java.time.OffsetDateTime.parse(inner.asText()));
        }
        long millis = number.isTextual() ? Long.parseLong(number.asText()) : number.longValue();
        return JavaValues.text(Instant.ofEpochMilli(millis).atOffset(ZoneOffset.UTC));
    }

    private static Wrapper binary(JsonNode node, JsonNode inner) {
        String base64 = inner.isObject() ? inner.path("base64").asText() : inner.asText();
        byte[] bytes = Base64.getDecoder().decode(base64);
        String subtype = inner.isObject()
                ? inner.path("subType").asText()
                : node.path("$type").asText();
        if (subtype.equals("04") && bytes.length == 16) {
            String hex = HexFormat.of().formatHex(bytes);
            return new Wrapper(LogicalType.UUID, hex.replaceFirst("(.{8})(.{4})(.{4})(.{4})(.{12})", "$1-$2-$3-$4-$5"));
        }
        return new Wrapper(LogicalType.BLOB, base64);
    }

    /** How a value text of a type is written as one; empty where JSON has a value of its own for it. */
    static Optional<String> json(LogicalType type, String text) {
        return Optional.ofNullable(
                switch (type.name()) {
                    case BIGINT -> "{\"$numberLong\":\"" + text + "\"}";
                    case DECIMAL -> "{\"$numberDecimal\":\"" + text + "\"}";
                    case REAL, DOUBLE -> "{\"$numberDouble\":\"" + text.replace("INF", "Infinity") + "\"}";
                    case TIMESTAMP_WITH_TIME_ZONE -> "{\"$date\":\"" + text + "\"}";
                    case BINARY, VARBINARY, BLOB -> "{\"$binary\":{\"base64\":\"" + text + "\",\"subType\":\"00\"}}";
                    case UUID -> "{\"$uuid\":\"" + text + "\"}";
                    default -> null;
                });
    }
}
