package org.orderlyferry.view;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import org.orderlyferry.problem.PlaceException;

/** Finds out which paths a column's documents have, and what stands there. Lists are values: a path doesn't lead into them. */
final class PathSurvey {

    /** A view of more columns is of no use to anybody, and some systems have no wider ones. */
    static final int MOST_PATHS = 1000;

    private static final int DEEPEST = 30;

    private static final JsonFactory JSON = new JsonFactory();

    /** What stands at a name, and what stands inside of it. */
    private static final class Node {
        private final PathStats stats = new PathStats();
        private final Map<String, Node> fields = new LinkedHashMap<>();
        private boolean used;
        private boolean empty;
        private long objects;
    }

    private final String place;
    private final Node root = new Node();
    private int paths;
    private boolean cut;

    /** A survey of documents at a place, by its name for messages. */
    PathSurvey(String place) {
        this.place = place;
    }

    /** Takes one document. */
    void add(byte[] bytes, int start, int end) {
        try (JsonParser parser = JSON.createParser(bytes, start, end - start)) {
            if (parser.nextToken() == JsonToken.START_OBJECT) {
                fields(parser, root, 0);
            }
        } catch (IOException e) {
            throw new PlaceException(place, "a document can't be read: " + e.getMessage(), e);
        }
    }

    private void fields(JsonParser parser, Node node, int depth) throws IOException {
        while (parser.nextToken() == JsonToken.FIELD_NAME) {
            String name = parser.currentName();
            parser.nextToken();
            field(parser, node, name, depth);
        }
    }

    private void field(JsonParser parser, Node node, String name, int depth) throws IOException {
        Node inner = node(node, name);
        if (inner == null) {
            parser.skipChildren();
        } else {
            value(parser, inner, depth + 1);
        }
    }

    private Node node(Node parent, String name) {
        Node known = parent.fields.get(name);
        if (known != null) {
            return known;
        }
        if (paths == MOST_PATHS) {
            cut = true;
            return null;
        }
        paths++;
        Node made = new Node();
        parent.fields.put(name, made);
        return made;
    }

    private void value(JsonParser parser, Node node, int depth) throws IOException {
        JsonToken token = parser.currentToken();
        if (token == JsonToken.START_ARRAY || token == JsonToken.START_OBJECT && depth > DEEPEST) {
            node.used = true;
            node.stats.addOther();
            parser.skipChildren();
        } else if (token == JsonToken.START_OBJECT) {
            object(parser, node, depth);
        } else if (token == JsonToken.VALUE_NULL) {
            node.empty = true;
        } else {
            node.used = true;
            node.stats.add(token, parser.getText());
        }
    }

    private void object(JsonParser parser, Node node, int depth) throws IOException {
        if (parser.nextToken() == JsonToken.END_OBJECT) {
            node.used = true;
            node.stats.addOther();
            return;
        }
        String first = parser.currentName();
        JsonToken value = parser.nextToken();
        if (first.startsWith("$")) {
            wrapper(parser, node, first, value);
            return;
        }
        node.objects++;
        field(parser, node, first, depth);
        fields(parser, node, depth);
    }

    /** A typed wrapper is one value; one that is none of those with a type of their own is JSON. */
    private void wrapper(JsonParser parser, Node node, String name, JsonToken value) throws IOException {
        node.used = true;
        String text = value == JsonToken.VALUE_STRING ? parser.getText() : null;
        parser.skipChildren();
        boolean alone = true;
        while (parser.nextToken() != JsonToken.END_OBJECT) {
            alone = false;
            parser.nextToken();
            parser.skipChildren();
        }
        if (alone && text != null && PathStats.isKnown(name)) {
            node.stats.add(name, text);
        } else {
            node.stats.addOther();
        }
    }

    /** Whether there were none: the documents are no objects, or empty ones. */
    boolean isEmpty() {
        return root.fields.isEmpty();
    }

    /** Whether there were more paths than are looked at. */
    boolean isCut() {
        return cut;
    }

    /** Each path with what stands there, in the order in which they were found. */
    void forEach(BiConsumer<List<String>, PathStats> sink) {
        walk(root, new ArrayList<>(), sink);
    }

    private static void walk(Node node, List<String> path, BiConsumer<List<String>, PathStats> sink) {
        node.fields.forEach((name, inner) -> {
            path.add(name);
            if (inner.used || inner.empty && inner.fields.isEmpty()) {
                // where an object stands in other documents, only JSON has all
                for (; inner.objects > 0; inner.objects--) {
                    inner.stats.addOther();
                }
                sink.accept(List.copyOf(path), inner.stats);
            }
            walk(inner, path, sink);
            path.remove(path.size() - 1);
        });
    }
}
