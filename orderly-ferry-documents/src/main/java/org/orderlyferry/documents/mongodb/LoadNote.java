package org.orderlyferry.documents.mongodb;

import com.mongodb.client.MongoCollection;
import com.mongodb.client.model.ReplaceOptions;
import com.mongodb.client.model.Updates;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
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
import org.orderlyferry.problem.UsageException;
import org.slf4j.LoggerFactory;

/**
 * What a load writes down in the database before it changes anything, so that the next one can put right what a killed one has
 * left. It holds names and a state, and is believed only where it has its own form.
 */
final class LoadNote {

    private static final int BEAT_MILLIS = 1000;
    private static final int LOOK_MILLIS = 200;

    private static final String NAME = "ferry_load";
    private static final BsonString ID = new BsonString("load");
    private static final String INCOMING = "ferry_in_";
    private static final String EARLIER = "ferry_was_";
    private static final Pattern RESERVED = Pattern.compile(NAME + "|(" + INCOMING + "|" + EARLIER + ")\\d+");

    /** Where is tried what the server can do. */
    static final String TRIAL = INCOMING + 0;

    /** How far a load has come. */
    enum State {
        /** Documents are written where nobody sees them: nothing else was changed. */
        WRITING,
        /** All documents are in, and are being brought to their places. */
        PLACING,
        /** All documents are in their places. */
        PLACED
    }

    /**
     * What happens to a collection.
     *
     * @param name where its documents belong
     * @param mode what is done with those that are there; empty where the documents belong into others, or nowhere
     * @param number which of the load's
     */
    record Part(String name, Optional<LoadMode> mode, int number) {

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
    private volatile List<Part> parts;
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

    /** Whether a name is kept for collections of ours. */
    static boolean isReserved(String name) {
        return RESERVED.matcher(name).matches();
    }

    /** The collections that are a load's, which is under way or was cut short. One that only has such a name is somebody's. */
    static Set<String> own(Server server) {
        try {
            return find(server)
                    .map(n -> Stream.concat(n.collections().stream(), Stream.of(NAME))
                            .collect(Collectors.toSet()))
                    .orElse(Set.of());
        } catch (PlaceException e) {
            return Set.of();
        }
    }

    private List<String> collections() {
        return Stream.concat(parts.stream().flatMap(p -> Stream.of(p.incoming(), p.earlier())), Stream.of(TRIAL))
                .toList();
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
                        facts.containsKey("mode")
                                ? Optional.of(
                                        LoadMode.valueOf(facts.getString("mode").getValue()))
                                : Optional.empty(),
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

    /**
     * Writes down what is about to begin, and from then on that it is alive.
     *
     * @throws UsageException if somebody has collections of the names that it needs
     */
    static LoadNote begin(Server server, List<Part> parts) {
        LoadNote note = new LoadNote(server, State.WRITING, parts);
        Set<String> there = server.names();
        note.collections().stream().filter(there::contains).findFirst().ifPresent(taken -> {
            throw new UsageException("the collection " + taken + " in " + server.shown()
                    + " has a name that is kept for loads, and isn't one's; it would have to be called otherwise");
        });
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

    /**
     * From now on the load is brought to its end, also if this process isn't there any more.
     *
     * @param placed what comes to a place of its own; of the others nothing does
     */
    void place(Set<Part> placed) {
        parts = parts.stream()
                .map(p -> placed.contains(p) ? p : new Part(p.name(), Optional.empty(), p.number()))
                .toList();
        state = State.PLACING;
        write();
    }

    /** From now on there is nothing left to be done but to tidy up. */
    void placed() {
        state = State.PLACED;
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
            BsonDocument facts = new BsonDocument("name", new BsonString(part.name()));
            part.mode().ifPresent(m -> facts.append("mode", new BsonString(m.name())));
            tables.add(facts);
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
        server.drop(collections());
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
