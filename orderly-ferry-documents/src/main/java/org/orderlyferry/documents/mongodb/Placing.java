package org.orderlyferry.documents.mongodb;

import com.mongodb.MongoBulkWriteException;
import com.mongodb.MongoNamespace;
import com.mongodb.bulk.BulkWriteError;
import com.mongodb.client.MongoCollection;
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
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonValue;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Merged;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.slf4j.LoggerFactory;

/**
 * Brings a load's documents from where they wait to where they belong, and back. Each step may be done again after a kill: it finds
 * out what is there.
 */
final class Placing {

    private static final int DUPLICATE = 11000;

    private final Server server;

    Placing(Server server) {
        this.server = server;
    }

    private MongoCollection<BsonDocument> collection(String name) {
        return server.database().getCollection(name, BsonDocument.class);
    }

    /** What becomes of a document that waits, next to one of the same id that stands elsewhere. */
    @FunctionalInterface
    private interface Change {
        List<WriteModel<BsonDocument>> of(BsonDocument waiting, @Nullable BsonDocument other);
    }

    /**
     * Looks, before anything is changed, whether added documents have ids that are taken.
     *
     * @throws PlaceException if one has
     */
    void checkFree(LoadNote.Part part) {
        change(part, part.name(), part.name(), false, (document, taken) -> {
            if (taken != null) {
                throw new PlaceException(
                        server.shown(),
                        "collection " + part.name() + " has a document of this key already: "
                                + id(document).toJson(),
                        null);
            }
            return List.of();
        });
    }

    /** Keeps what a merge will change, before anything is changed. */
    Merged keepEarlier(LoadNote.Part part, Given given) {
        long[] counts = new long[3];
        change(part, part.name(), part.earlier(), true, (document, old) -> {
            counts[old == null ? 0 : given.isIn(old, document) ? 2 : 1]++;
            return old == null ? List.of() : List.of(new InsertOneModel<>(old));
        });
        return new Merged(counts[0], counts[1], counts[2]);
    }

    /**
     * Brings a collection's documents to their place.
     *
     * @param given what a merge gives of each
     * @param again whether some may be there already, which others may have changed since
     */
    void place(LoadNote.Part part, Given given, boolean again) {
        switch (part.mode().orElseThrow()) {
            case CREATE -> rename(part.incoming(), part.name());
            case REPLACE -> {
                Set<String> there = server.names();
                if (there.contains(part.incoming())) {
                    if (!there.contains(part.earlier())) {
                        rename(part.name(), part.earlier());
                    }
                    rename(part.incoming(), part.name());
                }
            }
            case APPEND ->
                change(
                        part,
                        part.name(),
                        part.name(),
                        again,
                        (document, there) ->
                                again && there != null ? List.of() : List.of(new InsertOneModel<>(document)));
            case MERGE ->
                change(
                        part,
                        part.earlier(),
                        part.name(),
                        again,
                        (document, old) -> replacing(given.over(old, document)));
        }
    }

    private void rename(String from, String to) {
        if (server.names().contains(from)) {
            collection(from)
                    .renameCollection(new MongoNamespace(server.database().getName(), to));
        }
    }

    /** Puts a collection back as it was, whatever of its placing has been done. */
    private void putBack(LoadNote.Part part) {
        switch (part.mode().orElseThrow()) {
            case CREATE -> {
                if (!server.names().contains(part.incoming())) {
                    server.drop(List.of(part.name()));
                }
            }
            case REPLACE -> {
                Set<String> there = server.names();
                if (there.contains(part.earlier())) {
                    if (!there.contains(part.incoming())) {
                        server.drop(List.of(part.name()));
                    }
                    rename(part.earlier(), part.name());
                }
            }
            // one of the same key that somebody else has put there, or changed, meanwhile stays
            case APPEND ->
                change(
                        part,
                        part.name(),
                        part.name(),
                        true,
                        (document, there) ->
                                document.equals(there) ? List.of(new DeleteOneModel<>(id(document))) : List.of());
            case MERGE ->
                change(
                        part,
                        part.earlier(),
                        part.name(),
                        true,
                        (document, old) -> old == null ? List.of(new DeleteOneModel<>(id(document))) : replacing(old));
        }
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

    private static BsonDocument id(BsonDocument document) {
        return new BsonDocument(KeyStats.ID, document.get(KeyStats.ID));
    }

    /** Writes what becomes of each document that waits. */
    private void change(LoadNote.Part part, String beside, String to, boolean again, Change change) {
        Batches.each(server.collection(part.incoming()).find(), documents -> {
            Map<BsonValue, BsonDocument> others = new HashMap<>();
            BsonArray ids = new BsonArray(
                    documents.stream().map(d -> d.get(KeyStats.ID)).toList());
            collection(beside)
                    .find(new BsonDocument(KeyStats.ID, new BsonDocument("$in", ids)))
                    .forEach(d -> others.put(d.get(KeyStats.ID), d));
            List<WriteModel<BsonDocument>> writes = new ArrayList<>();
            documents.forEach(d -> writes.addAll(change.of(d, others.get(d.get(KeyStats.ID)))));
            write(to, writes, again);
        });
    }

    /**
     * Writes; in order where something goes and comes anew.
     *
     * @param again whether one that is there already, just so, is taken to be in
     */
    private void write(String name, List<WriteModel<BsonDocument>> writes, boolean again) {
        if (writes.isEmpty()) {
            return;
        }
        boolean ordered = writes.stream().anyMatch(w -> w instanceof DeleteOneModel);
        try {
            collection(name).bulkWrite(writes, new BulkWriteOptions().ordered(ordered));
        } catch (MongoBulkWriteException e) {
            for (BulkWriteError error : e.getWriteErrors()) {
                boolean isIn = again && error.getCode() == DUPLICATE && isThere(name, writes.get(error.getIndex()));
                if (!isIn) {
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
        boolean in = note.state() == LoadNote.State.PLACED || note.state() == LoadNote.State.PLACING && finished(note);
        note.end();
        return in ? Leftover.FINISHED : Leftover.UNDONE;
    }

    /** Brings a load to its end, or undoes it where that can't be: what a merge gave isn't known any more. */
    private boolean finished(LoadNote note) {
        List<LoadNote.Part> parts = placed(note);
        if (parts.stream().noneMatch(p -> p.mode().equals(Optional.of(LoadMode.MERGE)))) {
            try {
                Given all = new Given(true, List.of(), List.of());
                parts.forEach(p -> place(p, all, true));
                return true;
            } catch (PlaceException e) {
                LoggerFactory.getLogger(Placing.class).debug("what is left of a load can't be placed", e);
            }
        }
        undo(note);
        return false;
    }

    private static List<LoadNote.Part> placed(LoadNote note) {
        return note.parts().stream().filter(p -> p.mode().isPresent()).toList();
    }

    /** Puts all collections back, the last one first. */
    void undo(LoadNote note) {
        List<LoadNote.Part> parts = placed(note);
        for (int i = parts.size() - 1; i >= 0; i--) {
            putBack(parts.get(i));
        }
        note.giveUp();
    }
}
