package org.orderlyferry.format.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.IntNode;
import com.fasterxml.jackson.databind.node.LongNode;
import com.fasterxml.jackson.databind.node.TextNode;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;

/**
 * Takes a record apart: what stands in objects inside of it becomes columns of its own, named by paths
 * ({@code address.city}); each list becomes records of a table of its own, with a key back to the record that it was in.
 */
final class ApartRecords {

    /** Behind the name of a table stands the path of the list that it holds. */
    static final char LIST = '_';

    /** The column of a list's table that holds the key of the record that the list was in. */
    static final String PARENT = "parent";

    /** The column of a list's table that holds the element's place, from 1. */
    static final String PLACE = "place";

    /** The column of a list's table that holds an element that is no object. */
    static final String VALUE = "value";

    /** The column of a record that has no key, to which its lists refer: its number in the file, from 1. */
    static final String NUMBER = "record number";

    private final String keyName;
    private final boolean keyed;

    /**
     * Takes records apart.
     *
     * @param keyName the field that is a record's key; where a record has none, its number is
     * @param keyed whether records stand by their keys, which are then values of that field
     */
    ApartRecords(String keyName, boolean keyed) {
        this.keyName = keyName;
        this.keyed = keyed;
    }

    String keyName() {
        return keyName;
    }

    /** Whether a record has a key to which its lists can refer. */
    boolean hasKey(JsonNode record, String key) {
        JsonNode own = record.path(keyName);
        return keyed && key != null || !own.isMissingNode() && !own.isNull() && !own.isContainerNode();
    }

    /** A record of one of the tables. */
    record Part(String list, List<Map.Entry<String, JsonNode>> fields) {}

    /** All records that a record makes: itself, and those of its lists. */
    List<Part> parts(JsonNode record, String standsBy, long number) {
        List<Part> parts = new ArrayList<>();
        List<Map.Entry<String, JsonNode>> own = new ArrayList<>();
        Part whole = new Part("", own);
        parts.add(whole);
        boolean byKey = keyed && standsBy != null;
        JsonNode parent = byKey ? TextNode.valueOf(standsBy) : record.path(keyName);
        if (!hasKey(record, standsBy)) {
            parent = LongNode.valueOf(number);
            own.add(Map.entry(NUMBER, parent));
        } else if (byKey) {
            own.add(Map.entry(keyName, parent));
        }
        JsonNode key = parent;
        fields("", record, (path, value) -> {
            if (value.isArray()) {
                list(path, value, key, parts);
            } else {
                own.add(Map.entry(path, value));
            }
        });
        return parts;
    }

    private static void fields(String prefix, JsonNode object, BiConsumer<String, JsonNode> sink) {
        for (Map.Entry<String, JsonNode> field : object.properties()) {
            String path = prefix + field.getKey();
            JsonNode value = field.getValue();
            if (value.isObject() && !value.isEmpty() && Wrapper.of(value).isEmpty()) {
                fields(path + ".", value, sink);
            } else {
                sink.accept(path, value);
            }
        }
    }

    private static void list(String path, JsonNode list, JsonNode parent, List<Part> parts) {
        for (int i = 0; i < list.size(); i++) {
            List<Map.Entry<String, JsonNode>> fields = new ArrayList<>();
            fields.add(Map.entry(PARENT, parent));
            fields.add(Map.entry(PLACE, IntNode.valueOf(i + 1)));
            JsonNode element = list.get(i);
            if (element.isObject() && Wrapper.of(element).isEmpty()) {
                // a list inside of a list stays JSON
                fields("", element, (name, value) -> fields.add(Map.entry(name, value)));
            } else {
                fields.add(Map.entry(VALUE, element));
            }
            parts.add(new Part(path, fields));
        }
    }
}
