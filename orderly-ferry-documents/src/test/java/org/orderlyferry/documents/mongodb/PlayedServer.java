package org.orderlyferry.documents.mongodb;

import de.bwaldvogel.mongo.backend.memory.MemoryBackend;
import de.bwaldvogel.mongo.bson.Document;
import de.bwaldvogel.mongo.wire.message.MongoMessage;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Predicate;

/**
 * A server that has what the one in memory hasn't: it keeps validators and lists them, and says that it finds ranges of ids by their
 * index. What it is told to fail fails.
 */
final class PlayedServer extends MemoryBackend {

    private static final int REFUSED = 8000;

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
}
