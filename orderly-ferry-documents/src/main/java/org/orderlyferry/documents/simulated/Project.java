package org.orderlyferry.documents.simulated;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Set;
import java.util.TreeMap;

/** A project's collections. Safe for use by several threads: one after the other is let in. */
final class Project {

    /** Documents of one request, at most. */
    static final int MOST_WRITES = 500;

    /** Bytes of one document, at most. */
    static final int LARGEST = 1 << 20;

    private static final int PAGE_BYTES = 4 << 20;
    private static final int LONGEST_NAME = 200;
    private static final int LONGEST_ID = 1_500;

    /** Types that JSON has none for: an object of one such name holds a text. */
    private static final Set<String> TYPES = Set.of(
            "@decimal", "@double", "@bytes", "@date", "@time", "@local", "@moment", "@uuid", "@duration", "@json");

    /** A document as it is kept. */
    private record Kept(JsonNode fields, int bytes) {}

    private static final class Collection {
        private final JsonNode description;
        private final NavigableMap<String, Kept> documents = new TreeMap<>();
        private long bytes;

        private Collection(JsonNode description) {
            this.description = description;
        }
    }

    private final Map<String, Collection> collections = new TreeMap<>();

    private static ObjectNode object() {
        return JsonNodeFactory.instance.objectNode();
    }

    synchronized Answer list() {
        ObjectNode body = object();
        ArrayNode list = body.putArray("collections");
        collections.forEach((name, c) -> list.add(said(name, c)));
        return Answer.ok(body);
    }

    private static ObjectNode said(String name, Collection collection) {
        return object().put("name", name)
                .put("documents", collection.documents.size())
                .put("bytes", collection.bytes);
    }

    static Answer limits(String project) {
        return Answer.ok(
                object().put("name", project).put("mostWrites", MOST_WRITES).put("largestDocument", LARGEST));
    }

    synchronized Answer look(String name) {
        Collection collection = collections.get(name);
        if (collection == null) {
            return missing(name);
        }
        ObjectNode body = said(name, collection);
        body.set("description", collection.description);
        return Answer.ok(body);
    }

    private static Answer missing(String name) {
        return Answer.problem(404, "there is no collection " + name);
    }

    synchronized Answer make(String name, JsonNode body) {
        if (name.isEmpty() || name.length() > LONGEST_NAME || name.chars().anyMatch(c -> c < ' ')) {
            return Answer.problem(400, "a collection can't be called so");
        }
        if (collections.containsKey(name)) {
            return Answer.problem(409, "there is a collection " + name + " already");
        }
        collections.put(name, new Collection(body.path("description")));
        return Answer.done(201);
    }

    synchronized Answer remove(String name) {
        return collections.remove(name) == null ? missing(name) : Answer.done(204);
    }

    synchronized Answer rename(String name, String other) {
        if (!collections.containsKey(name)) {
            return missing(name);
        }
        if (collections.containsKey(other)) {
            return Answer.problem(409, "there is a collection " + other + " already");
        }
        collections.put(other, collections.remove(name));
        return Answer.done(204);
    }

    /** Documents in the order of their ids, as many as a page holds. */
    synchronized Answer page(String name, String after, int most) {
        Collection collection = collections.get(name);
        if (collection == null) {
            return missing(name);
        }
        String last;
        try {
            last = new String(Base64.getUrlDecoder().decode(after), StandardCharsets.UTF_8);
        } catch (IllegalArgumentException e) {
            return Answer.problem(400, "no page ended so");
        }
        ObjectNode body = object();
        ArrayNode documents = body.putArray("documents");
        int bytes = 0;
        for (Map.Entry<String, Kept> e :
                collection.documents.tailMap(last, after.isEmpty()).entrySet()) {
            if (documents.size() >= most || bytes > PAGE_BYTES) {
                body.put(
                        "after",
                        Base64.getUrlEncoder()
                                .withoutPadding()
                                .encodeToString(documents
                                        .get(documents.size() - 1)
                                        .path("id")
                                        .asText()
                                        .getBytes(StandardCharsets.UTF_8)));
                return Answer.ok(body);
            }
            documents
                    .addObject()
                    .put("id", e.getKey())
                    .set("fields", e.getValue().fields());
            bytes += e.getValue().bytes();
        }
        return Answer.ok(body);
    }

    /** Does all of it, or nothing. */
    synchronized Answer write(String name, JsonNode body) {
        Collection collection = collections.get(name);
        if (collection == null) {
            return missing(name);
        }
        JsonNode writes = body.path("writes");
        if (!writes.isArray() || writes.size() > MOST_WRITES) {
            return Answer.problem(400, "a request has up to " + MOST_WRITES + " writes");
        }
        Map<String, Kept> changes = new TreeMap<>();
        int[] counts = new int[4];
        for (JsonNode write : writes) {
            String id = write.path("id").asText();
            if (id.isEmpty() || id.length() > LONGEST_ID) {
                return Answer.problem(400, "an id has 1 to " + LONGEST_ID + " characters", id);
            }
            Kept there = changes.getOrDefault(id, collection.documents.get(id));
            if (write.path("gone").asBoolean()) {
                counts[3] += there == null || there.fields().isMissingNode() ? 0 : 1;
                changes.put(id, new Kept(JsonNodeFactory.instance.missingNode(), 0));
                continue;
            }
            JsonNode fields = write.path("over").asBoolean() && there != null
                    ? over(there.fields(), write)
                    : write.path("fields");
            int bytes = fields.toString().getBytes(StandardCharsets.UTF_8).length;
            List<String> wrong = new ArrayList<>();
            check(fields, wrong);
            if (!fields.isObject() || !wrong.isEmpty()) {
                return Answer.problem(400, "no document is like that: " + wrong, id);
            }
            if (bytes > LARGEST) {
                return Answer.problem(413, "it has " + bytes + " bytes", id);
            }
            if (write.path("new").asBoolean()
                    && there != null
                    && !there.fields().equals(fields)) {
                return Answer.problem(409, "there is another document of this id already", id);
            }
            counts[there == null ? 0 : there.fields().equals(fields) ? 2 : 1]++;
            changes.put(id, new Kept(fields, bytes));
        }
        changes.forEach((id, kept) -> {
            Kept before = kept.fields().isMissingNode()
                    ? collection.documents.remove(id)
                    : collection.documents.put(id, kept);
            collection.bytes += kept.bytes() - (before == null ? 0 : before.bytes());
        });
        return Answer.ok(object().put("written", writes.size())
                .put("inserted", counts[0])
                .put("changed", counts[1])
                .put("same", counts[2])
                .put("gone", counts[3]));
    }

    /** A document with the fields that are given, and without those that are to go. */
    private static JsonNode over(JsonNode there, JsonNode write) {
        ObjectNode merged = there.isObject() ? there.deepCopy() : object();
        write.path("fields").properties().forEach(f -> merged.set(f.getKey(), f.getValue()));
        write.path("without").forEach(name -> merged.remove(name.asText()));
        return merged;
    }

    /** An object with a name that begins with {@code @}, and not with two of them, is a value of a type. */
    private static void check(JsonNode value, List<String> wrong) {
        value.properties().forEach(field -> {
            String key = field.getKey();
            boolean typed = key.startsWith("@") && !key.startsWith("@@");
            if (typed
                    && !(value.size() == 1
                            && TYPES.contains(key)
                            && field.getValue().isTextual())) {
                wrong.add(key);
            }
        });
        value.forEach(v -> check(v, wrong));
    }
}
