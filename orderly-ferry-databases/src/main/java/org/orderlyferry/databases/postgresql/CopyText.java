package org.orderlyferry.databases.postgresql;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.cfg.JsonNodeFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.sql.SQLException;
import org.orderlyferry.model.LogicalType;

/** Values whose text PostgreSQL reads otherwise than it stands in value text. */
final class CopyText {

    /** Numbers keep all their digits. */
    private static final ObjectMapper JSON = JsonMapper.builder()
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .disable(JsonNodeFeature.STRIP_TRAILING_BIGDECIMAL_ZEROES)
            .build();

    private CopyText() {}

    static String of(String value, LogicalType type) throws SQLException {
        return switch (type.name()) {
            case REAL, DOUBLE -> value.replace("INF", "Infinity");
            case ARRAY -> array(value);
            default -> PostgresCells.own(value, type);
        };
    }

    /** {@code [1, null, "a"]} as {@code {1,NULL,"a"}}. */
    private static String array(String json) throws SQLException {
        try {
            StringBuilder text = new StringBuilder();
            array(JSON.readTree(json), text);
            return text.toString();
        } catch (JsonProcessingException e) {
            throw new SQLException("the value isn't a JSON array: " + json, e);
        }
    }

    private static void array(JsonNode node, StringBuilder text) {
        if (node.isArray()) {
            text.append('{');
            for (int i = 0; i < node.size(); i++) {
                text.append(i == 0 ? "" : ",");
                array(node.get(i), text);
            }
            text.append('}');
        } else if (node.isNull()) {
            text.append("NULL");
        } else {
            String plain = node.isValueNode() ? node.asText() : node.toString();
            text.append('"')
                    .append(plain.replace("\\", "\\\\").replace("\"", "\\\""))
                    .append('"');
        }
    }
}
