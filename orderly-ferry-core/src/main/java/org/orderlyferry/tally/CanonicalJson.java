package org.orderlyferry.tally;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.Iterator;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/**
 * JSON in the canonical form of RFC 8785: keys in order of their UTF-16 code units, no blanks, the shortest escapes,
 * numbers as ECMAScript writes them. One step beyond it: a number with more digits than a double keeps is written with
 * all of them, since a migration must not take two such numbers for one.
 */
final class CanonicalJson {

    private static final JsonMapper MAPPER = JsonMapper.builder(new JsonFactory())
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS, DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .build();

    private CanonicalJson() {}

    static byte[] of(byte[] bytes, int start, int end) throws IOException {
        byte[] plain = PlainJson.of(bytes, start, end);
        return plain == null ? anyOf(bytes, start, end) : plain;
    }

    /** The canonical form of any JSON. */
    static byte[] anyOf(byte[] bytes, int start, int end) throws IOException {
        try (JsonParser parser = MAPPER.createParser(bytes, start, end - start)) {
            JsonNode node = MAPPER.readTree(parser);
            if (node == null || node.isMissingNode()) {
                throw new IOException("no JSON value");
            }
            StringBuilder text = new StringBuilder(end - start);
            write(node, text);
            return text.toString().getBytes(StandardCharsets.UTF_8);
        }
    }

    private static void write(JsonNode node, StringBuilder to) {
        switch (node.getNodeType()) {
            case OBJECT -> object((ObjectNode) node, to);
            case ARRAY -> array((ArrayNode) node, to);
            case STRING -> string(node.textValue(), to);
            case NUMBER -> to.append(number(node.decimalValue()));
            default -> to.append(node.asText());
        }
    }

    private static void object(ObjectNode node, StringBuilder to) {
        TreeMap<String, JsonNode> sorted = new TreeMap<>();
        for (Map.Entry<String, JsonNode> property : node.properties()) {
            sorted.put(property.getKey(), property.getValue());
        }
        to.append('{');
        String separator = "";
        for (Map.Entry<String, JsonNode> property : sorted.entrySet()) {
            to.append(separator);
            string(property.getKey(), to);
            to.append(':');
            write(property.getValue(), to);
            separator = ",";
        }
        to.append('}');
    }

    private static void array(ArrayNode node, StringBuilder to) {
        to.append('[');
        Iterator<JsonNode> elements = node.elements();
        while (elements.hasNext()) {
            write(elements.next(), to);
            if (elements.hasNext()) {
                to.append(',');
            }
        }
        to.append(']');
    }

    private static void string(String value, StringBuilder to) {
        to.append('"');
        for (int i = 0; i < value.length(); i++) {
            char c = value.charAt(i);
            switch (c) {
                case '"' -> to.append("\\\"");
                case '\\' -> to.append("\\\\");
                case '\b' -> to.append("\\b");
                case '\f' -> to.append("\\f");
                case '\n' -> to.append("\\n");
                case '\r' -> to.append("\\r");
                case '\t' -> to.append("\\t");
                default -> {
                    if (c < 0x20) {
                        to.append(String.format(Locale.ROOT, "\\u%04x", (int) c));
                    } else {
                        to.append(c);
                    }
                }
            }
        }
        to.append('"');
    }

    private static String number(BigDecimal exact) {
        if (exact.signum() == 0) {
            return "0";
        }
        double nearest = exact.doubleValue();
        BigDecimal shortest = Double.isInfinite(nearest) ? null : new BigDecimal(Double.toString(nearest));
        BigDecimal value = (shortest != null && shortest.compareTo(exact) == 0 ? shortest : exact).stripTrailingZeros();
        String digits = value.unscaledValue().abs().toString();
        int exponent = digits.length() - value.scale() - 1;
        String sign = value.signum() < 0 ? "-" : "";
        if (exponent >= -7 && exponent < 21) {
            return sign + value.abs().toPlainString();
        }
        String mantissa = digits.length() == 1 ? digits : digits.charAt(0) + "." + digits.substring(1);
        return sign + mantissa + "e" + (exponent < 0 ? "" : "+") + exponent;
    }
}
