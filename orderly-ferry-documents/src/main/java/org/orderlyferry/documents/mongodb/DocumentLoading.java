package org.orderlyferry.documents.mongodb;

import com.mongodb.MongoException;
import com.mongodb.client.model.CreateCollectionOptions;
import com.mongodb.client.model.ValidationOptions;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonObjectId;
import org.bson.types.ObjectId;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;

/**
 * Documents on their way: they are written where nobody sees them, checked and given their keys, and then brought to their places
 * by steps that are undone if one fails.
 */
final class DocumentLoading implements Loading {

    private final Server server;
    private final LoadTables plan;
    private final boolean writesNulls;
    private final LoadNote note;
    private final Placing placing;
    private final NewIndexes indexes;
    private final Runnable whenLasting;
    private final Set<TableName> leftOut = ConcurrentHashMap.newKeySet();
    private final Set<Integer> begun = ConcurrentHashMap.newKeySet();
    /** Writers of parts of which nothing was written before. */
    private final Map<Integer, DocumentWriter> writers = new ConcurrentHashMap<>();
    /** Tables whose unique keys are there before their documents. */
    private final Set<TableName> prepared = new HashSet<>();

    private final Map<TableName, Merged> merged = new HashMap<>();
    private final Map<TableName, Integer> loads = new HashMap<>();
    private final List<Finding> findings;
    private final List<LeftBehind> leftBehind;
    private boolean done;

    private DocumentLoading(Server server, LoadTables plan, boolean writesNulls, LoadNote note, Runnable whenLasting) {
        this.server = server;
        this.plan = plan;
        this.writesNulls = writesNulls;
        this.note = note;
        this.placing = new Placing(server);
        this.whenLasting = whenLasting;
        this.findings = new ArrayList<>(plan.findings());
        this.leftBehind = new ArrayList<>(plan.leftBehind());
        this.indexes = new NewIndexes(server, leftBehind);
    }

    /** Makes ready; nothing that is there is changed. */
    static DocumentLoading begin(Server server, LoadTables plan, boolean writesNulls, Runnable whenLasting) {
        LoadNote note = LoadNote.begin(
                server, plan.tables().values().stream().map(LoadTable::part).toList());
        DocumentLoading loading = new DocumentLoading(server, plan, writesNulls, note, whenLasting);
        try {
            plan.tables().values().forEach(loading::make);
        } catch (RuntimeException e) {
            loading.close();
            throw e;
        }
        return loading;
    }

    private void make(LoadTable table) {
        Optional<LoadMode> mode = table.part().mode();
        boolean made = mode.isPresent() && mode.get() != LoadMode.APPEND && mode.get() != LoadMode.MERGE;
        CreateCollectionOptions options = new CreateCollectionOptions();
        boolean ours = made && !table.source().system().equals(Held.SYSTEM);
        if (ours) {
            options.validationOptions(new ValidationOptions().validator(Validator.of(table.target(), writesNulls)));
        } else if (mode.equals(Optional.of(LoadMode.APPEND))) {
            // what is added is looked at as it will be where it comes to
            theirs(table.part().name()).ifPresent(v -> options.validationOptions(new ValidationOptions().validator(v)));
        }
        try {
            server.database().createCollection(table.part().incoming(), options);
        } catch (MongoException e) {
            server.database().createCollection(table.part().incoming());
            if (ours) {
                findings.add(Finding.of(
                        FindingCode.DEFINITION_DROPPED,
                        table.source().name(),
                        "the server takes no $jsonSchema, so that it will not look at types: " + server.said(e)));
            }
        }
        loads.put(
                table.source().name(),
                mode.equals(Optional.of(LoadMode.APPEND)) && table.isKeyless()
                        ? earlierLoads(table.part().name())
                        : 0);
    }

    /** The validator of a collection that is there. */
    private Optional<BsonDocument> theirs(String collection) {
        return server.database().listCollections(BsonDocument.class).into(new ArrayList<>()).stream()
                .filter(c -> c.getString("name").getValue().equals(collection))
                .findFirst()
                .filter(c -> c.isDocument("options"))
                .map(c -> c.getDocument("options"))
                .filter(o -> o.isDocument("validator"))
                .map(o -> o.getDocument("validator"));
    }

    /** How many loads have given ids to a collection's documents. */
    private int earlierLoads(String collection) {
        BsonDocument last = server.database()
                .getCollection(collection, BsonDocument.class)
                .find(new BsonDocument(
                        KeyStats.ID,
                        new BsonDocument("$lt", new BsonObjectId(new ObjectId("000000010000000000000000")))))
                .sort(new BsonDocument(KeyStats.ID, new BsonInt32(-1)))
                .limit(1)
                .first();
        return last == null || !last.isObjectId(KeyStats.ID)
                ? 0
                : GeneratedId.load(last.getObjectId(KeyStats.ID).getValue()) + 1;
    }

    @Override
    public RecordWriter writer(TablePart part, Supplier<String> receipt) {
        boolean again = !begun.add(part.task());
        DocumentWriter writer = documents(part, again);
        if (!again) {
            writers.put(part.task(), writer);
        } else {
            writers.remove(part.task());
        }
        return writer;
    }

    private DocumentWriter documents(TablePart part, boolean again) {
        return new DocumentWriter(server, plan.tables().get(part.table()), again, loads.get(part.table()), part.task());
    }

    /**
     * Elements of lists are looked at, and so is a part that was begun before, of which some are there. All others are
     * written by the screen, so that the server says itself which it won't have.
     */
    @Override
    public Optional<Screen> screen(TablePart part) {
        LoadTable table = plan.tables().get(part.table());
        DocumentWriter writer = writers.remove(part.task());
        if (writer == null || table.list().isPresent()) {
            return Optional.of(table.screen());
        }
        prepare(table);
        writer.isWrittenBefore();
        boolean added = table.part().mode().equals(Optional.of(LoadMode.APPEND));
        return Optional.of(new ServerScreen(server, table, documents(part, false), added));
    }

    /** Gives a collection on its way what the server is to look at, before there are documents in it. */
    private synchronized void prepare(LoadTable table) {
        if (!prepared.add(table.source().name())) {
            return;
        }
        server.work("keys of " + table.target().name() + " can't be made", () -> {
            indexes.make(table, true);
            return null;
        });
    }

    @Override
    public boolean leaveOut(TableName table) {
        leftOut.add(table);
        return true;
    }

    @Override
    public void finish(Written written) {
        Set<TableName> out = new HashSet<>(leftOut);
        out.addAll(written.leftOut());
        List<LoadTable> tables = plan.tables().values().stream()
                .filter(t -> !out.contains(t.source().name()))
                .toList();
        server.work("the documents can't be brought to their places", () -> {
            plan.tables().values().stream()
                    .filter(t -> !tables.contains(t))
                    .forEach(t -> server.collection(t.part().incoming()).drop());
            tables.forEach(t -> mustBeWhole(t, written));
            tables.stream().filter(t -> t.list().isPresent()).forEach(this::putBack);
            List<LoadTable> own =
                    tables.stream().filter(t -> t.list().isEmpty()).toList();
            own.forEach(t -> settle(t, given(t)));
            note.place(own.stream().map(LoadTable::part).collect(Collectors.toSet()));
            try {
                own.forEach(t -> placing.place(t.part(), given(t), false));
            } catch (RuntimeException e) {
                undo(e);
                throw e;
            }
            return null;
        });
        done = true;
        whenLasting.run();
        try {
            note.placed();
            note.end();
        } catch (MongoException e) {
            // all is in: the next load finds the note, and does what is left
            findings.add(Finding.ofAll(
                    FindingCode.NOT_REMOVED, "what the load needs no more can't be taken away: " + server.said(e)));
        }
    }

    /** What the server has must be what was told to it. */
    private void mustBeWhole(LoadTable table, Written written) {
        long told = written.parts().stream()
                .filter(p -> p.part().table().equals(table.source().name()))
                .mapToLong(p -> p.tally().rows())
                .sum();
        long there = server.collection(table.part().incoming()).countDocuments();
        if (there != told) {
            throw new PlaceException(
                    server.shown(),
                    "of table " + table.source().name() + ", " + told + " records were written, and " + there
                            + " are there; nothing was changed",
                    null);
        }
    }

    private void putBack(LoadTable list) {
        new Lists(server, list, plan.tables().get(list.list().orElseThrow().of())).putBack();
        server.collection(list.part().incoming()).drop();
    }

    private void settle(LoadTable table, Given given) {
        LoadNote.Part part = table.part();
        switch (part.mode().orElseThrow()) {
            case APPEND -> placing.checkFree(part);
            case MERGE -> merged.put(table.source().name(), placing.keepEarlier(part, given));
            default -> {
                if (!prepared.contains(table.source().name())) {
                    indexes.make(table, true);
                }
                indexes.make(table, false);
            }
        }
    }

    private Given given(LoadTable table) {
        List<String> lists = plan.tables().values().stream()
                .flatMap(t -> t.list().stream())
                .filter(l -> l.of().equals(table.source().name()))
                .map(ListTable::path)
                .toList();
        return new Given(table.isWhole(), table.fields(), lists);
    }

    private void undo(RuntimeException why) {
        try {
            server.resume();
            placing.undo(note);
        } catch (MongoException | FerryException e) {
            // the next load finds the note, and puts back what is left
            why.addSuppressed(e);
        }
    }

    @Override
    public Optional<Merged> merged(TableName table) {
        return Optional.ofNullable(merged.get(table));
    }

    @Override
    public List<Finding> findings() {
        return List.copyOf(findings);
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return List.copyOf(leftBehind);
    }

    @Override
    public void close() {
        if (!done && note.state() == LoadNote.State.WRITING) {
            server.resume();
            server.work("what the load has written can't be taken away", () -> {
                note.end();
                return null;
            });
        }
        note.rest();
        done = true;
    }
}
