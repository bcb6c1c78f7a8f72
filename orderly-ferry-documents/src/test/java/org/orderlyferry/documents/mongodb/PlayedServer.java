package org.orderlyferry.documents.mongodb;

import de.bwaldvogel.mongo.backend.memory.MemoryBackend;
import de.bwaldvogel.mongo.bson.Document;
import de.bwaldvogel.mongo.wire.message.MongoMessage;
import io.netty.channel.embedded.EmbeddedChannel;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Predicate;

/**
 * A server that has what the one in memory hasn't: it keeps validators, lists them, and takes nothing else, and says that it finds ranges of ids by their
 * index. What it is told to fail fails.
 */
final class PlayedServer extends MemoryBackend {

    private static final int REFUSED = 8000;
    private static final int INVALID = 121;

    /** The server's words for the types that it has in memory. */
    private static final Map<String, String> TYPES = Map.ofEntries(
            Map.entry("null", "null"),
            Map.entry("String", "string"),
            Map.entry("Integer", "int"),
            Map.entry("Long", "long"),
            Map.entry("Double", "double"),
            Map.entry("Boolean", "bool"),
            Map.entry("Instant", "date"),
            Map.entry("Decimal128", "decimal"),
            Map.entry("BinData", "binData"),
            Map.entry("byte[]", "binData"),
            Map.entry("UUID", "binData"),
            Map.entry("LegacyUUID", "binData"),
            Map.entry("ObjectId", "objectId"));

    private final Map<String, Object> validators = new ConcurrentHashMap<>();
    private final List<Predicate<Document>> failing = new CopyOnWriteArrayList<>();

    /** Commands that are to fail from now on. */
    void failing(Predicate<Document> when) {
        failing.add(when);
    }

    /** All is well again. */
    void failsNoMore() {
        failing.clear();
    }

    /** Puts a document there as somebody else would, also while a command is being answered. */
    void put(String database, String collection, Document document) {
        handleCommand(
                new EmbeddedChannel(),
                database,
                "insert",
                new Document("insert", collection)
                        .append("documents", List.of(document))
                        .append("$db", database));
    }

    @Override
    public Document handleMessage(MongoMessage message) {
        Document command = message.getDocument();
        String name = command.keySet().iterator().next();
        if (failing.stream().anyMatch(f -> f.test(command))) {
            return new Document("ok", 0.0)
                    .append("errmsg", "the played server refuses " + name)
                    .append("code", REFUSED)
                    .append("codeName", "Refused");
        }
        switch (name) {
            case "create" -> {
                if (command.containsKey("validator")) {
                    validators.put(key(message, command.get("create")), command.get("validator"));
                }
            }
            case "insert" -> {
                Object validator = validators.get(key(message, command.get(name)));
                Document refused = refused(command, validator);
                if (refused != null && Boolean.FALSE.equals(command.get("ordered"))) {
                    return theRest(message, validator);
                }
                if (refused != null) {
                    return refused;
                }
            }
            case "renameCollection" -> {
                Object validator = validators.remove(String.valueOf(command.get(name)));
                if (validator != null) {
                    validators.put(String.valueOf(command.get("to")), validator);
                }
            }
            case "explain" -> {
                return new Document("ok", 1.0)
                        .append(
                                "queryPlanner",
                                new Document(
                                        "winningPlan",
                                        new Document("stage", "FETCH")
                                                .append("inputStage", new Document("stage", "IXSCAN"))));
            }
            default -> {
                // as it is
            }
        }
        Document answer = super.handleMessage(message);
        if (name.equals("listCollections")) {
            list(message, answer);
        }
        return answer;
    }

    /** Inserts those that the validator takes, and says which it doesn't. */
    @SuppressWarnings("unchecked")
    private Document theRest(MongoMessage message, Object validator) {
        Document command = message.getDocument();
        List<Document> all = (List<Document>) command.get("documents");
        Document schema = (Document) ((Document) validator).get("$jsonSchema");
        List<Document> taken = new ArrayList<>();
        List<Integer> places = new ArrayList<>();
        List<Document> errors = new ArrayList<>();
        for (int i = 0; i < all.size(); i++) {
            String wrong = wrong(schema, all.get(i));
            if (wrong == null) {
                taken.add(all.get(i));
                places.add(i);
            } else {
                errors.add(new Document("index", i)
                        .append("code", INVALID)
                        .append("errmsg", "Document failed validation: " + wrong));
            }
        }
        Document answer = new Document("ok", 1.0).append("n", 0);
        if (!taken.isEmpty()) {
            command.put("documents", taken);
            answer = super.handleMessage(message);
            for (Document error : (List<Document>) answer.getOrDefault("writeErrors", List.of())) {
                errors.add(error.cloneDeeply().append("index", places.get((Integer) error.get("index"))));
            }
        }
        answer.put("writeErrors", errors);
        return answer;
    }

    private static String key(MongoMessage message, Object collection) {
        return message.getDocument().get("$db") + "." + collection;
    }

    @SuppressWarnings("unchecked")
    private void list(MongoMessage message, Document answer) {
        for (Document collection : (List<Document>) ((Document) answer.get("cursor")).get("firstBatch")) {
            Object validator = validators.get(key(message, collection.get("name")));
            if (validator != null) {
                collection.put("options", new Document("validator", validator));
            }
        }
    }

    /** The answer to an insert of a document that its validator doesn't take; null where it takes all. */
    @SuppressWarnings("unchecked")
    private static Document refused(Document command, Object validator) {
        if (validator == null) {
            return null;
        }
        Document schema = (Document) ((Document) validator).get("$jsonSchema");
        List<Document> documents = (List<Document>) command.get("documents");
        for (int i = 0; i < documents.size(); i++) {
            String wrong = wrong(schema, documents.get(i));
            if (wrong != null) {
                return new Document("ok", 1.0)
                        .append("n", 0)
                        .append(
                                "writeErrors",
                                List.of(new Document("index", i)
                                        .append("code", INVALID)
                                        .append("errmsg", "Document failed validation: " + wrong)));
            }
        }
        return null;
    }

    @SuppressWarnings("unchecked")
    private static String wrong(Document schema, Document document) {
        for (Object name : (List<Object>) schema.getOrDefault("required", List.of())) {
            if (!document.containsKey(name)) {
                return name + " is required";
            }
        }
        for (Map.Entry<String, Object> property : ((Document) schema.get("properties")).entrySet()) {
            Document wanted = (Document) property.getValue();
            Object value = document.get(property.getKey());
            Object types = wanted.get("bsonType");
            if (document.containsKey(property.getKey()) && types != null) {
                List<?> all = types instanceof List<?> several ? several : List.of(types);
                if (!all.contains(TYPES.getOrDefault(
                        value == null ? "null" : value.getClass().getSimpleName(), "?"))) {
                    return property.getKey() + " is " + value + ", not of " + all;
                }
            }
            if (value instanceof String text
                    && wanted.get("maxLength") instanceof Integer most
                    && text.codePointCount(0, text.length()) > most) {
                return property.getKey() + " is too long";
            }
        }
        return null;
    }
}
