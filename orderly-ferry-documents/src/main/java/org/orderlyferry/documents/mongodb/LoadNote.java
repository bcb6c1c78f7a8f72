package org.orderlyferry.documents.mongodb;

import com.mongodb.client.MongoCollection;
import com.mongodb.client.model.ReplaceOptions;
import com.mongodb.client.model.Updates;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonNull;
import org.bson.BsonString;
import org.bson.BsonValue;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import org.slf4j.LoggerFactory;

/**
 * What a load writes down in the database before it changes anything, so that the next one can put right what a killed one has
 * left. It holds names and a state, and is believed only where it has its own form.
 */
final class LoadNote {

    private static final int BEAT_MILLIS = 1000;
    private static final int LOOK_MILLIS = 200;

    /** Collections of ours begin so. */
    private static final String OURS = "ferry_";

    private static final String NAME = OURS + "load";
    private static final BsonString ID = new BsonString("load");
    private static final String INCOMING = OURS + "in_";
    private static final String EARLIER = OURS + "was_";

    /** How far a load has come. */
    enum State {
        /** Documents are written where nobody sees them: nothing else was changed. */
        WRITING,
        /** All documents are in, and are being brought to their places. */
        PLACING
    }

    /**
     * What happens to a collection.
     *
     * @param name where its documents belong
     * @param mode what is done with those that are there
     * @param number which of the load's
     */
    record Part(String name, LoadMode mode, int number) {

        /** Where its documents wait. */
        String incoming() {
            return INCOMING + number;
        }

        /** Where what it replaces waits until all are in their places, or what it changes is kept. */
        String earlier() {
            return EARLIER + number;
        }
    }

    private final Server server;
    private final List<Part> parts;
    private final ScheduledExecutorService pulse;
    private volatile State state;

    private LoadNote(Server server, State state, List<Part> parts) {
        this.server = server;
        this.state = state;
        this.parts = List.copyOf(parts);
        this.pulse = Executors.newSingleThreadScheduledExecutor(r -> {
            Thread thread = new Thread(r, "ferry-pulse");
            thread.setDaemon(true);
            return thread;
        });
    }

    /** Whether a collection's name is one of ours. */
    static boolean isOurs(String name) {
        return name.equals(NAME) || name.startsWith(INCOMING) || name.startsWith(EARLIER);
    }

    /** The note of a load that was cut short; empty where there is none. */
    static Optional<LoadNote> find(Server server) {
        BsonDocument note = collection(server).find(new BsonDocument("_id", ID)).first();
        if (note == null) {
            return Optional.empty();
        }
        try {
            List<Part> parts = new ArrayList<>();
            for (BsonValue part : note.getArray("tables")) {
                BsonDocument facts = part.asDocument();
                parts.add(new Part(
                        facts.getString("name").getValue(),
                        LoadMode.valueOf(facts.getString("mode").getValue()),
                        parts.size() + 1));
            }
            return Optional.of(
                    new LoadNote(server, State.valueOf(note.getString("state").getValue()), parts));
        } catch (RuntimeException e) {
            throw new PlaceException(
                    server.shown(),
                    "the collection " + NAME + " isn't what a load has left there; its name is kept for that",
                    e);
        }
    }

    /** Writes down what is about to begin, and from then on that it is alive. */
    static LoadNote begin(Server server, List<Part> parts) {
        LoadNote note = new LoadNote(server, State.WRITING, parts);
        note.write();
        note.pulse.scheduleWithFixedDelay(note::beat, BEAT_MILLIS, BEAT_MILLIS, TimeUnit.MILLISECONDS);
        return note;
    }

    private void beat() {
        try {
            collection(server).updateOne(new BsonDocument("_id", ID), Updates.inc("beat", 1L));
        } catch (RuntimeException e) {
            // whoever works with the server will hear of it; the next beat may come through
            LoggerFactory.getLogger(LoadNote.class).debug("the load can't say that it is alive", e);
        }
    }

    /** Whether whoever wrote it still says that it is alive. */
    boolean isAlive() {
        BsonValue before = beats();
        for (int waited = 0; waited < 3 * BEAT_MILLIS; waited += LOOK_MILLIS) {
            try {
                Thread.sleep(LOOK_MILLIS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw new StoppedException();
            }
            BsonValue now = beats();
            if (now == null || !now.equals(before)) {
                return now != null;
            }
        }
        return false;
    }

    private @Nullable BsonValue beats() {
        BsonDocument note = collection(server).find(new BsonDocument("_id", ID)).first();
        return note == null ? null : note.get("beat", BsonNull.VALUE);
    }

    List<Part> parts() {
        return parts;
    }

    State state() {
        return state;
    }

    /** From now on the load is brought to its end, also if this process isn't there any more. */
    void place() {
        state = State.PLACING;
        write();
    }

    /** From now on it is undone. */
    void giveUp() {
        state = State.WRITING;
        write();
    }

    private void write() {
        BsonArray tables = new BsonArray();
        for (Part part : parts) {
            tables.add(new BsonDocument("name", new BsonString(part.name()))
                    .append("mode", new BsonString(part.mode().name())));
        }
        collection(server)
                .replaceOne(
                        new BsonDocument("_id", ID),
                        new BsonDocument("_id", ID)
                                .append("state", new BsonString(state.name()))
                                .append("tables", tables),
                        new ReplaceOptions().upsert(true));
    }

    /** Takes away what the load needs no more, and the note at last. */
    void end() {
        rest();
        server.drop(parts.stream()
                .flatMap(p -> Stream.of(p.incoming(), p.earlier()))
                .toList());
        server.collection(NAME).drop();
    }

    /** Says no more that the load is alive. */
    void rest() {
        pulse.shutdownNow();
    }

    private static MongoCollection<BsonDocument> collection(Server server) {
        return server.database().getCollection(NAME, BsonDocument.class);
    }
}
