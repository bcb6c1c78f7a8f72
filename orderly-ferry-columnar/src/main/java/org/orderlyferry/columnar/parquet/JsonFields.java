package org.orderlyferry.columnar.parquet;

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
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.function.Consumer;
import org.apache.parquet.io.api.Converter;
import org.apache.parquet.io.api.GroupConverter;
import org.apache.parquet.schema.GroupType;
import org.apache.parquet.schema.LogicalTypeAnnotation;
import org.apache.parquet.schema.PrimitiveType;
import org.apache.parquet.schema.Type;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * Takes what is nested as JSON: groups as objects, lists and repeated fields as arrays, maps as objects where their keys are texts,
 * and as arrays of objects with {@code key} and {@code value} elsewhere (the format's LogicalTypes.md, Nested Types).
 */
final class JsonFields {

    private static final ObjectMapper JSON = JsonMapper.builder()
            .disable(JsonNodeFeature.STRIP_TRAILING_BIGDECIMAL_ZEROES)
            .enable(StreamWriteFeature.WRITE_BIGDECIMAL_AS_PLAIN)
            .build();
    private static final JsonNodeFactory NODES = JsonNodeFactory.instance;

    private final List<Runnable> starts = new ArrayList<>();
    private final List<Runnable> ends = new ArrayList<>();
    private Slots.@Nullable Bad bad;

    /** Begins a record. */
    void start() {
        bad = null;
        starts.forEach(Runnable::run);
    }

    /** Ends a record: repeated fields are whole then. */
    void end() {
        ends.forEach(Runnable::run);
    }

    /** A converter for a field of the record itself. */
    Converter field(Type field, Consumer<Object> sink) {
        Consumer<JsonNode> whole = node -> sink.accept(bad == null ? text(node) : bad);
        if (field.getRepetition() != Type.Repetition.REPEATED) {
            return node(field, whole);
        }
        ArrayNode[] all = {null};
        starts.add(() -> all[0] = NODES.arrayNode());
        ends.add(() -> whole.accept(all[0]));
        return node(field, n -> all[0].add(n));
    }

    private static Object text(JsonNode node) {
        try {
            return JSON.writeValueAsString(node);
        } catch (JsonProcessingException e) {
            return new Slots.Bad("", "can't be written as JSON: " + e.getMessage());
        }
    }

    /** A converter for one value of a field. */
    private Converter node(Type field, Consumer<JsonNode> sink) {
        if (field.isPrimitive()) {
            PrimitiveType type = field.asPrimitiveType();
            LogicalType as = ParquetTypes.type(type);
            return new ValueConverter(type, v -> sink.accept(single(v, as)));
        }
        GroupType group = field.asGroupType();
        LogicalTypeAnnotation told = group.getLogicalTypeAnnotation();
        boolean one = group.getFieldCount() == 1 && group.getType(0).getRepetition() == Type.Repetition.REPEATED;
        if (one && told instanceof LogicalTypeAnnotation.ListLogicalTypeAnnotation) {
            return list(group, sink);
        } else if (one && told instanceof LogicalTypeAnnotation.MapLogicalTypeAnnotation && isMap(group.getType(0))) {
            return map(group.getType(0).asGroupType(), sink);
        }
        return object(group, sink);
    }

    private JsonNode single(Object value, LogicalType type) {
        if (value instanceof Slots.Bad wrong) {
            bad = wrong;
            return NullNode.getInstance();
        } else if (value instanceof byte[] bytes) {
            return NODES.textNode(Base64.getEncoder().encodeToString(bytes));
        }
        String text = (String) value;
        boolean number =
                type.name().isExactNumber() || type.name().isApproximateNumber() && Double.isFinite(finite(text));
        if (number) {
            return DecimalNode.valueOf(new BigDecimal(text));
        }
        return type.name() == TypeName.BOOLEAN ? NODES.booleanNode(text.equals("true")) : NODES.textNode(text);
    }

    private static double finite(String text) {
        return text.endsWith("N") || text.endsWith("F") ? Double.NaN : Double.parseDouble(text);
    }

    /** Converters of a group's fields. */
    private static class Group extends GroupConverter {

        private final Converter[] fields;
        private final Runnable start;
        private final Runnable end;

        Group(Converter[] fields, Runnable start, Runnable end) {
            this.fields = fields;
            this.start = start;
            this.end = end;
        }

        @Override
        public Converter getConverter(int field) {
            return fields[field];
        }

        @Override
        public void start() {
            start.run();
        }

        @Override
        public void end() {
            end.run();
        }
    }

    private Converter object(GroupType group, Consumer<JsonNode> sink) {
        JsonNode[] values = new JsonNode[group.getFieldCount()];
        Converter[] fields = new Converter[values.length];
        for (int i = 0; i < fields.length; i++) {
            int at = i;
            fields[i] = node(
                    group.getType(i), isList(group, i) ? n -> ((ArrayNode) values[at]).add(n) : n -> values[at] = n);
        }
        return new Group(
                fields,
                () -> {
                    for (int i = 0; i < values.length; i++) {
                        // a repeated field that hasn't come is an empty list
                        values[i] = isList(group, i) ? NODES.arrayNode() : null;
                    }
                },
                () -> {
                    ObjectNode object = NODES.objectNode();
                    for (int i = 0; i < values.length; i++) {
                        if (values[i] != null) {
                            object.set(group.getFieldName(i), values[i]);
                        }
                    }
                    sink.accept(object);
                });
    }

    private static boolean isList(GroupType group, int field) {
        return group.getType(field).getRepetition() == Type.Repetition.REPEATED;
    }

    private Converter list(GroupType group, Consumer<JsonNode> sink) {
        ArrayNode[] all = {null};
        Type repeated = group.getType(0);
        boolean wrapped = !repeated.isPrimitive()
                && repeated.asGroupType().getFieldCount() == 1
                && !repeated.getName().equals("array")
                && !repeated.getName().equals(group.getName() + "_tuple");
        Converter elements;
        if (wrapped) {
            JsonNode[] element = {null};
            Converter inner = node(repeated.asGroupType().getType(0), n -> element[0] = n);
            elements = new Group(
                    new Converter[] {inner}, () -> element[0] = NullNode.getInstance(), () -> all[0].add(element[0]));
        } else {
            elements = node(repeated, n -> all[0].add(n));
        }
        return new Group(new Converter[] {elements}, () -> all[0] = NODES.arrayNode(), () -> sink.accept(all[0]));
    }

    private static boolean isMap(Type entry) {
        return !entry.isPrimitive()
                && entry.asGroupType().getFieldCount() == 2
                && entry.asGroupType().getType(0).isPrimitive();
    }

    private Converter map(GroupType entry, Consumer<JsonNode> sink) {
        JsonNode[] pair = {null, null};
        boolean texts =
                ParquetTypes.type(entry.getType(0).asPrimitiveType()).name().isText();
        ObjectNode[] object = {null};
        ArrayNode[] list = {null};
        Converter[] fields = {node(entry.getType(0), n -> pair[0] = n), node(entry.getType(1), n -> pair[1] = n)};
        Converter entries = new Group(
                fields,
                () -> {
                    pair[0] = NullNode.getInstance();
                    pair[1] = NullNode.getInstance();
                },
                () -> {
                    if (texts) {
                        object[0].set(pair[0].asText(), pair[1]);
                    } else {
                        list[0].addObject().<ObjectNode>set("key", pair[0]).set("value", pair[1]);
                    }
                });
        return new Group(
                new Converter[] {entries},
                () -> {
                    object[0] = NODES.objectNode();
                    list[0] = NODES.arrayNode();
                },
                () -> sink.accept(texts ? object[0] : list[0]));
    }
}
