package org.orderlyferry.format.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.LongNode;
import com.fasterxml.jackson.databind.node.TextNode;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.record.apart.Nesting;

/** JSON's values. */
final class JsonNesting implements Nesting<JsonNode> {

    @Override
    public boolean isObject(JsonNode value) {
        return value.isObject() && Wrapper.of(value).isEmpty();
    }

    @Override
    public boolean isList(JsonNode value) {
        return value.isArray();
    }

    @Override
    public Iterable<Map.Entry<String, JsonNode>> fields(JsonNode object) {
        return object.properties();
    }

    @Override
    public @Nullable JsonNode field(JsonNode object, String name) {
        return object.get(name);
    }

    @Override
    public Iterable<JsonNode> elements(JsonNode list) {
        return list;
    }

    @Override
    public boolean isKey(JsonNode value) {
        return !value.isNull() && (!value.isContainerNode() || Wrapper.of(value).isPresent());
    }

    @Override
    public JsonNode text(String text) {
        return TextNode.valueOf(text);
    }

    @Override
    public JsonNode number(long number) {
        return LongNode.valueOf(number);
    }
}
