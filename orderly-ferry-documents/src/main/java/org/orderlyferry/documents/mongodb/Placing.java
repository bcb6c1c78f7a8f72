package org.orderlyferry.documents.mongodb;

import com.mongodb.MongoBulkWriteException;
import com.mongodb.MongoNamespace;
import com.mongodb.bulk.BulkWriteError;
import com.mongodb.client.MongoCollection;
import com.mongodb.client.MongoCursor;
import com.mongodb.client.model.BulkWriteOptions;
import com.mongodb.client.model.DeleteOneModel;
import com.mongodb.client.model.InsertOneModel;
import com.mongodb.client.model.ReplaceOneModel;
import com.mongodb.client.model.ReplaceOptions;
import com.mongodb.client.model.WriteModel;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonValue;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Merged;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/**
 * Brings a load's documents from where they wait to where they belong, and back. Each step may be done again after a kill: it finds
 * out what is there.
 */
final class Placing {

    private static final int MOST = 500;
    private static final int DUPLICATE = 11000;

    private final Server server;

    Placing(Server server) {
        this.server = server;
    }

    private Set<String> there() {
        return server.database().listCollectionNames().into(new ArrayList<>()).stream()
                .collect(Collectors.toSet());
    }

    private MongoCollection<BsonDocument> collection(String name) {
        return server.database().getCollection(name, BsonDocument.class);
    }

    /**
     * Looks, before anything is changed, whether added documents have ids that are taken.
     *
     * @throws PlaceException if one has
     */
    void checkFree(LoadNote.Part part) {
        eachBatch(part.incoming(), (ids, documents) -> {
            BsonDocument taken = collection(part.name()).find(in(ids)).first();
            if (taken != null) {
                throw new PlaceException(
                        server.shown(),
                        "collection " + part.name() + " has a document of this key already: "
                                + new BsonDocument(KeyStats.ID, taken.get(KeyStats.ID)).toJson(),
                        null);
            }
        });
    }

    /**
     * Keeps what a merge will change, before anything is changed.
     *
     * @param fields those that the merge gives; null where it gives whole documents
     */
    Merged keepEarlier(LoadNote.Part part, @Nullable List<String> fields) {
        long[] counts = new long[3];
        eachBatch(part.incoming(), (ids, documents) -> {
            Map<BsonValue, BsonDocument> olds = byId(part.name(), ids);
            for (BsonDocument document : documents) {
                BsonDocument old = olds.get(document.get(KeyStats.ID));
                counts[old == null ? 0 : isSame(old, document, fields) ? 2 : 1]++;
            }
            write(part.earlier(), inserts(List.copyOf(olds.values())));
        });
        return new Merged(counts[0], counts[1], counts[2]);
    }

    private static List<WriteModel<BsonDocument>> inserts(List<BsonDocument> documents) {
        return documents.stream()
                .map(d -> (WriteModel<BsonDocument>) new InsertOneModel<>(d))
                .toList();
    }

    private static boolean isSame(BsonDocument old, BsonDocument given, @Nullable List<String> fields) {
        if (fields == null) {
            return old.equals(given);
        }
        return fields.stream().allMatch(f -> Objects.equals(at(old, f), at(given, f)));
    }

    /** What stands at a path; null for nothing. */
    private static @Nullable BsonValue at(BsonDocument document, String path) {
        BsonValue value = document;
        for (String name : path.split("\\.", -1)) {
            value = value != null && value.isDocument() ? value.asDocument().get(name) : null;
        }
        return value;
    }

    /**
     * Brings a collection's documents to their place.
     *
     * @param fields of a merge: those that it gives; null where it gives whole documents
     */
    void place(LoadNote.Part part, @Nullable List<String> fields) {
        switch (part.mode()) {
            case CREATE -> rename(part.incoming(), part.name());
            case REPLACE -> {
                Set<String> there = there();
                if (there.contains(part.incoming())) {
                    if (!there.contains(part.earlier())) {
                        rename(part.name(), part.earlier());
                    }
                    rename(part.incoming(), part.name());
                }
            }
            case APPEND -> eachBatch(part.incoming(), (ids, documents) -> write(part.name(), inserts(documents)));
            case MERGE ->
                eachBatch(part.incoming(), (ids, documents) -> {
                    Map<BsonValue, BsonDocument> olds = byId(part.earlier(), ids);
                    write(
                            part.name(),
                            documents.stream()
                                    .flatMap(d -> replacing(merged(olds.get(d.get(KeyStats.ID)), d, fields)).stream())
                                    .toList());
                });
        }
    }

    private Map<BsonValue, BsonDocument> byId(String name, List<BsonValue> ids) {
        Map<BsonValue, BsonDocument> documents = new HashMap<>();
        collection(name).find(in(ids)).forEach(d -> documents.put(d.get(KeyStats.ID), d));
        return documents;
    }

    /**
     * Writes that put a document in the place of one of the same id, or add it. A replacement can't have fields that begin with a
     * {@code $}, as documents may: such a one goes, and comes anew.
     */
    static List<WriteModel<BsonDocument>> replacing(BsonDocument document) {
        return document.keySet().stream().anyMatch(n -> n.startsWith("$"))
                ? List.of(new DeleteOneModel<>(id(document)), new InsertOneModel<>(document))
                : List.of(new ReplaceOneModel<>(id(document), document, new ReplaceOptions().upsert(true)));
    }

    private void rename(String from, String to) {
        if (there().contains(from)) {
            collection(from)
                    .renameCollection(new MongoNamespace(server.database().getName(), to));
        }
    }

    /** A document that was there with what is given of it; fields that aren't given stay. */
    private static BsonDocument merged(@Nullable BsonDocument old, BsonDocument given, @Nullable List<String> fields) {
        if (old == null || fields == null) {
            return given;
        }
        BsonDocument document = old.clone();
        for (String field : fields) {
            put(document, field.split("\\.", -1), at(given, field));
        }
        return document;
    }

    /** Puts a value at a path, or takes away what is there. */
    static void put(BsonDocument document, String[] path, @Nullable BsonValue value) {
        BsonDocument at = document;
        for (int i = 0; i < path.length - 1; i++) {
            BsonValue inner = at.get(path[i]);
            if (inner == null || !inner.isDocument()) {
                if (value == null) {
                    return;
                }
                inner = new BsonDocument();
                at.put(path[i], inner);
            }
            at = inner.asDocument();
        }
        String name = path[path.length - 1];
        if (value == null) {
            at.remove(name);
        } else {
            at.put(name, value);
        }
    }

    /** Puts a collection back as it was, whatever of its placing has been done. */
    void putBack(LoadNote.Part part) {
        switch (part.mode()) {
            case CREATE -> {
                if (!there().contains(part.incoming())) {
                    collection(part.name()).drop();
                }
            }
            case REPLACE -> {
                if (there().contains(part.earlier())) {
                    if (!there().contains(part.incoming())) {
                        collection(part.name()).drop();
                    }
                    rename(part.earlier(), part.name());
                }
            }
            case APPEND ->
                eachBatch(part.incoming(), (ids, documents) -> {
                    Map<BsonValue, BsonDocument> there = byId(part.name(), ids);
                    write(
                            part.name(),
                            documents.stream()
                                    // one of the same key that somebody else has put there meanwhile stays
                                    .filter(d -> d.equals(there.get(d.get(KeyStats.ID))))
                                    .map(d -> (WriteModel<BsonDocument>) new DeleteOneModel<BsonDocument>(id(d)))
                                    .toList());
                });
            case MERGE ->
                eachBatch(part.incoming(), (ids, documents) -> {
                    Map<BsonValue, BsonDocument> olds = byId(part.earlier(), ids);
                    write(
                            part.name(),
                            documents.stream()
                                    .flatMap(d -> olds.containsKey(d.get(KeyStats.ID))
                                            ? replacing(olds.get(d.get(KeyStats.ID))).stream()
                                            : Stream.of(
                                                    (WriteModel<BsonDocument>) new DeleteOneModel<BsonDocument>(id(d))))
                                    .toList());
                });
        }
    }

    private static BsonDocument id(BsonDocument document) {
        return new BsonDocument(KeyStats.ID, document.get(KeyStats.ID));
    }

    private static BsonDocument in(List<BsonValue> ids) {
        return new BsonDocument(KeyStats.ID, new BsonDocument("$in", new BsonArray(ids)));
    }

    private void eachBatch(String name, BiConsumer<List<BsonValue>, List<BsonDocument>> work) {
        List<BsonDocument> documents = new ArrayList<>();
        try (MongoCursor<BsonDocument> cursor =
                collection(name).find().batchSize(MOST).iterator()) {
            while (cursor.hasNext()) {
                documents.add(cursor.next());
                if (documents.size() == MOST || !cursor.hasNext()) {
                    work.accept(documents.stream().map(d -> d.get(KeyStats.ID)).toList(), documents);
                    documents.clear();
                }
            }
        }
    }

    /** Writes, where what was written before a kill is taken to be in. */
    private void write(String name, List<WriteModel<BsonDocument>> writes) {
        if (writes.isEmpty()) {
            return;
        }
        try {
            // in order: what goes and comes anew must do so one after the other
            collection(name).bulkWrite(writes, new BulkWriteOptions().ordered(inOrder(writes)));
        } catch (MongoBulkWriteException e) {
            for (BulkWriteError error : e.getWriteErrors()) {
                if (error.getCode() != DUPLICATE || !isThere(name, writes.get(error.getIndex()))) {
                    throw new PlaceException(
                            server.shown(),
                            "collection " + name + " refuses a document: " + Refusal.reason(error, name, name),
                            e);
                }
            }
            if (e.getWriteErrors().isEmpty()) {
                throw e;
            }
        }
    }

    private static boolean inOrder(List<WriteModel<BsonDocument>> writes) {
        return writes.stream().anyMatch(w -> w instanceof DeleteOneModel);
    }

    private boolean isThere(String name, WriteModel<BsonDocument> write) {
        return write instanceof InsertOneModel<BsonDocument> insert
                && insert.getDocument()
                        .equals(collection(name).find(id(insert.getDocument())).first());
    }

    /** Puts right what a load has left that was cut short; what it came to. */
    static Leftover clear(Server server) {
        return LoadNote.find(server)
                .map(note -> new Placing(server).clear(note))
                .orElse(Leftover.NONE);
    }

    private Leftover clear(LoadNote note) {
        if (note.isAlive()) {
            throw new UsageException("another load into " + server.shown() + " is under way: of "
                    + note.parts().stream().map(LoadNote.Part::name).collect(Collectors.joining(", ")));
        }
        boolean whole = note.state() == LoadNote.State.PLACING
                && note.parts().stream().noneMatch(p -> p.mode() == LoadMode.MERGE);
        if (whole) {
            note.parts().forEach(p -> place(p, null));
        } else if (note.state() == LoadNote.State.PLACING) {
            undo(note);
        }
        note.end();
        return whole ? Leftover.FINISHED : Leftover.UNDONE;
    }

    /** Puts all collections back, the last one first. */
    void undo(LoadNote note) {
        for (int i = note.parts().size() - 1; i >= 0; i--) {
            putBack(note.parts().get(i));
        }
        note.giveUp();
    }
}
