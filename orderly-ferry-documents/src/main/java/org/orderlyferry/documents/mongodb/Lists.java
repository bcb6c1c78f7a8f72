package org.orderlyferry.documents.mongodb;

import com.mongodb.client.MongoCollection;
import com.mongodb.client.MongoCursor;
import com.mongodb.client.model.Sorts;
import com.mongodb.client.model.WriteModel;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonInt64;
import org.bson.BsonValue;
import org.bson.RawBsonDocument;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.problem.PlaceException;

/** Puts records of lists' tables back into the documents that they are in, each list at once and in its order. */
final class Lists {

    /** Where the key of the document stands that an element is in. */
    static final String PARENT = "p";

    /** Where the element's place stands. */
    static final String PLACE = "n";

    /** Where the element stands. */
    static final String ELEMENT = "e";

    private static final int MOST_LISTS = 100;

    private final Server server;
    private final LoadTable table;
    private final LoadTable parent;
    private final MongoCollection<BsonDocument> documents;
    private final Map<BsonValue, BsonArray> waiting = new LinkedHashMap<>();
    private final List<BsonValue> keys = new ArrayList<>();
    private long bytes;

    Lists(Server server, LoadTable table, LoadTable parent) {
        this.server = server;
        this.table = table;
        this.parent = parent;
        this.documents = server.database().getCollection(parent.part().incoming(), BsonDocument.class);
    }

    /**
     * Puts all of them back.
     *
     * @throws PlaceException if there is no document for one of them
     */
    void putBack() {
        MongoCollection<RawBsonDocument> elements =
                server.collection(table.part().incoming());
        elements.createIndex(new BsonDocument(PARENT, new BsonInt32(1)).append(PLACE, new BsonInt32(1)));
        BsonValue current = null;
        BsonArray list = new BsonArray();
        try (MongoCursor<RawBsonDocument> cursor = elements.find()
                .sort(Sorts.ascending(PARENT, PLACE, KeyStats.ID))
                .iterator()) {
            while (cursor.hasNext()) {
                RawBsonDocument raw = cursor.next();
                BsonDocument element = Documents.decoded(raw);
                BsonValue of = element.get(PARENT);
                if (!of.equals(current)) {
                    add(current, list);
                    current = of;
                    list = new BsonArray();
                }
                bytes += Batches.size(raw);
                list.add(element.get(ELEMENT));
            }
        }
        add(current, list);
        send();
    }

    private void add(@Nullable BsonValue parentKey, BsonArray list) {
        if (parentKey == null) {
            return;
        }
        waiting.put(comparable(parentKey), list);
        keys.add(parentKey);
        if (waiting.size() == MOST_LISTS || Batches.isFull(bytes)) {
            send();
        }
    }

    /** The documents are written anew, whole: an update refuses some names of fields that documents may have. */
    private void send() {
        if (waiting.isEmpty()) {
            return;
        }
        String[] path = table.list().orElseThrow().path().split("\\.", -1);
        Batches.each(
                server.collection(parent.part().incoming())
                        .find(new BsonDocument(KeyStats.ID, new BsonDocument("$in", new BsonArray(keys)))),
                found -> {
                    List<WriteModel<BsonDocument>> writes = new ArrayList<>();
                    for (BsonDocument document : found) {
                        BsonArray list = waiting.remove(comparable(document.get(KeyStats.ID)));
                        // one that was just written may come by once more
                        if (list != null) {
                            Given.put(document, path, list);
                            writes.addAll(Placing.replacing(document));
                        }
                    }
                    if (!writes.isEmpty()) {
                        documents.bulkWrite(writes);
                    }
                });
        if (!waiting.isEmpty()) {
            throw new PlaceException(
                    server.shown(),
                    "table " + table.source().name() + " has records for a document of "
                            + parent.source().name() + " that isn't there: "
                            + new BsonDocument(
                                            KeyStats.ID,
                                            waiting.keySet().iterator().next())
                                    .toJson(),
                    null);
        }
        keys.clear();
        bytes = 0;
    }

    /** A key as the server compares it, to which whole numbers of 32 bits and of 64 are the same. */
    private static BsonValue comparable(BsonValue key) {
        return key.isInt32() ? new BsonInt64(key.asInt32().getValue()) : key;
    }
}
