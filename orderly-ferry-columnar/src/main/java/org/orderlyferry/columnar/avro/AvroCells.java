package org.orderlyferry.columnar.avro;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamWriteFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.cfg.JsonNodeFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.DecimalNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.NullNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.util.Base64;
import java.util.Collection;
import java.util.Map;
import java.util.UUID;
import org.apache.avro.LogicalTypes;
import org.apache.avro.Schema;
import org.apache.avro.generic.GenericData;
import org.apache.avro.generic.GenericFixed;
import org.apache.avro.generic.IndexedRecord;
import org.orderlyferry.columnar.Epochs;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;

/** Values of a file's fields: value text, bytes, or JSON where they are nested. */
final class AvroCells {

    private static final ObjectMapper JSON = JsonMapper.builder()
            .disable(JsonNodeFeature.STRIP_TRAILING_BIGDECIMAL_ZEROES)
            .enable(StreamWriteFeature.WRITE_BIGDECIMAL_AS_PLAIN)
            .build();

    private AvroCells() {}

    /** A value that isn't null: a text, or bytes. */
    static Object of(Schema field, Object value) throws InvalidValueException {
        return switch (field.getType()) {
            case ARRAY, MAP, RECORD, UNION -> json(field, value);
            case INT, LONG -> whole(field, ((Number) value).longValue());
            case FLOAT -> JavaValues.text((float) value);
            case DOUBLE -> JavaValues.text((double) value);
            case BYTES, FIXED -> bytes(field, value);
            default -> value.toString();
        };
    }

    private static String whole(Schema field, long value) throws InvalidValueException {
        String told =
                field.getLogicalType() == null ? "" : field.getLogicalType().getName();
        boolean utc = !told.startsWith("local-");
        return switch (told) {
            case "date" -> Epochs.day(value);
            case "time-millis" -> Epochs.time(value, 1_000_000);
            case "time-micros" -> Epochs.time(value, 1_000);
            case "timestamp-millis", "local-timestamp-millis" -> Epochs.moment(value, 1_000_000, utc);
            case "timestamp-micros", "local-timestamp-micros" -> Epochs.moment(value, 1_000, utc);
            case "timestamp-nanos", "local-timestamp-nanos" -> Epochs.moment(value, 1, utc);
            default -> Long.toString(value);
        };
    }

    private static Object bytes(Schema field, Object value) throws InvalidValueException {
        byte[] bytes;
        if (value instanceof GenericFixed fixed) {
            bytes = fixed.bytes();
        } else {
            ByteBuffer buffer = ((ByteBuffer) value).duplicate();
            bytes = new byte[buffer.remaining()];
            buffer.get(bytes);
        }
        if (field.getLogicalType() instanceof LogicalTypes.Decimal decimal) {
            if (bytes.length == 0) {
                throw new InvalidValueException("is a number without a digit");
            }
            return new BigDecimal(new BigInteger(bytes), decimal.getScale()).toPlainString();
        } else if (field.getLogicalType() instanceof LogicalTypes.Uuid) {
            ByteBuffer id = ByteBuffer.wrap(bytes);
            return new UUID(id.getLong(), id.getLong()).toString();
        }
        return bytes;
    }

    private static String json(Schema field, Object value) throws InvalidValueException {
        try {
            return JSON.writeValueAsString(node(field, value));
        } catch (JsonProcessingException e) {
            throw new InvalidValueException("can't be written as JSON: " + e.getMessage());
        }
    }

    private static JsonNode node(Schema field, Object value) throws InvalidValueException {
        JsonNodeFactory nodes = JsonNodeFactory.instance;
        if (value == null) {
            return NullNode.getInstance();
        }
        switch (field.getType()) {
            case UNION -> {
                int which = GenericData.get().resolveUnion(field, value);
                return node(field.getTypes().get(which), value);
            }
            case RECORD -> {
                ObjectNode node = nodes.objectNode();
                for (Schema.Field inner : field.getFields()) {
                    node.set(inner.name(), node(inner.schema(), ((IndexedRecord) value).get(inner.pos())));
                }
                return node;
            }
            case ARRAY -> {
                ArrayNode node = nodes.arrayNode();
                for (Object element : (Collection<?>) value) {
                    node.add(node(field.getElementType(), element));
                }
                return node;
            }
            case MAP -> {
                ObjectNode node = nodes.objectNode();
                for (Map.Entry<?, ?> entry : ((Map<?, ?>) value).entrySet()) {
                    node.set(entry.getKey().toString(), node(field.getValueType(), entry.getValue()));
                }
                return node;
            }
            case BOOLEAN -> {
                return nodes.booleanNode((boolean) value);
            }
            default -> {
                Object single = of(field, value);
                if (single instanceof byte[] bytes) {
                    return nodes.textNode(Base64.getEncoder().encodeToString(bytes));
                }
                String text = (String) single;
                boolean number = AvroTypes.logical(field).name().isExactNumber()
                        || AvroTypes.logical(field).name().isApproximateNumber()
                                && Double.isFinite(((Number) value).doubleValue());
                return number ? DecimalNode.valueOf(new BigDecimal(text)) : nodes.textNode(text);
            }
        }
    }
}
