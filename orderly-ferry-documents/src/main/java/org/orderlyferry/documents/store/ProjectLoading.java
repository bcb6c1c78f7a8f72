package org.orderlyferry.documents.store;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.csvw.CsvwSchemaWriter;
import org.orderlyferry.documents.store.ProjectWriter.Mode;
import org.orderlyferry.documents.trial.TrialLoading;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;

/** Documents on their way: written into collections of ours, counted, and given their names by steps that are undone if one fails. */
final class ProjectLoading implements Loading, TrialLoading.Plan {

    private final ProjectPlace place;
    private final Client client;
    private final Limits limits;
    private final Map<TableName, TableDefinition> tables = new LinkedHashMap<>();
    private final Map<TableName, LoadNote.Part> parts = new LinkedHashMap<>();
    private final Set<TableName> leftOut = ConcurrentHashMap.newKeySet();
    private final Set<Integer> begun = ConcurrentHashMap.newKeySet();
    private final List<Finding> findings = new ArrayList<>();
    private final LoadModes modes;
    private final String load;
    /** Tables that are there and get more. */
    private final Map<TableName, Grown> grown = new HashMap<>();

    /** What their columns are called in the documents that are there. */
    private final Map<TableName, List<String>> fields = new HashMap<>();

    private boolean done;

    /** What becomes of a collection that gets more. */
    private static final class Grown {
        private long before;
        private long inserted;
        private long changed;
        private long same;

        private synchronized void take(JsonNode answer) {
            inserted += answer.path("inserted").asLong();
            changed += answer.path("changed").asLong();
            same += answer.path("same").asLong();
        }
    }

    /** The load as it would be, with nothing made. */
    ProjectLoading(
            ProjectPlace place, Client client, List<TableDefinition> sources, LoadModes modes, Set<String> there) {
        this.place = place;
        this.client = client;
        this.limits = Limits.of(client);
        this.modes = modes;
        this.load =
                Long.toHexString(System.nanoTime() & 0xFFFFFFFFL | 0x100000000L).substring(1);
        List<TableDefinition> named = place.named(sources);
        for (int i = 0; i < sources.size(); i++) {
            TableName source = sources.get(i).name();
            tables.put(source, sources.get(i));
            String name = named.get(i).name().name();
            parts.put(source, LoadNote.part(name, load, i + 1));
            LoadMode mode = modes.of(source);
            if (there.contains(name) && (mode == LoadMode.APPEND || mode == LoadMode.MERGE)) {
                grown.put(source, new Grown());
                fields.put(source, place.fields(TableName.of(name), sources.get(i)));
            }
        }
        unkept(sources);
    }

    private void unkept(List<TableDefinition> sources) {
        List<TableName> unkept = sources.stream()
                .filter(t -> !t.uniqueKeys().isEmpty()
                        || !t.foreignKeys().isEmpty()
                        || !t.checks().isEmpty()
                        || t.indexes().stream().anyMatch(i -> i.unique()))
                .map(TableDefinition::name)
                .toList();
        if (!unkept.isEmpty()) {
            findings.add(Finding.ofAll(
                    FindingCode.DEFINITION_DROPPED,
                    "unique keys, references and checks stay in the collections' descriptions, but the store looks at"
                            + " ids alone: " + Listed.of(unkept)));
        }
    }

    /** Makes ready; nothing that is there is changed. */
    void begin() {
        LoadNote.write(client, LoadNote.WRITING, List.copyOf(parts.values()));
        try {
            List<TableDefinition> named = place.named(List.copyOf(tables.values()));
            int i = 0;
            for (Map.Entry<TableName, LoadNote.Part> e : parts.entrySet()) {
                LoadNote.Part part = e.getValue();
                Grown more = grown.get(e.getKey());
                if (more != null) {
                    Swap.copy(client, part.name(), part.incoming());
                    more.before = client.get("collections", part.incoming())
                            .path("documents")
                            .asLong();
                    i++;
                    continue;
                }
                ObjectNode body = Client.JSON.createObjectNode();
                body.set("description", new CsvwSchemaWriter(Map.of()).write(named.get(i++)));
                client.send("PUT", LoadNote.bytes(body), "collections", part.incoming());
            }
        } catch (RuntimeException e) {
            close();
            throw e;
        }
    }

    @Override
    public RecordWriter writer(TablePart part, Supplier<String> receipt) {
        boolean again = !begun.add(part.task());
        Grown more = grown.get(part.table());
        boolean over = more != null && modes.of(part.table()) == LoadMode.MERGE;
        if (over && again) {
            // what the first attempt has changed is counted, and can't be told from what was so before
            throw new PlaceException(
                    client.shown(), "a merge into table " + part.table() + " can't go on after a failure", null);
        }
        return writer(
                part.table(),
                parts.get(part.table()).incoming(),
                load + "-" + part.task(),
                over ? Mode.OVER : again ? Mode.AGAIN : Mode.NEW,
                more);
    }

    private RecordWriter writer(TableName table, String collection, String prefix, Mode how, @Nullable Grown more) {
        TableDefinition source = tables.get(table);
        return new ProjectWriter(
                client, limits, collection, source, fields(table), new DocumentIds(source, prefix), how) {
            @Override
            void deliver(byte[] body) {
                if (!collection.isEmpty()) {
                    super.deliver(body);
                }
            }

            @Override
            void counted(JsonNode answer) {
                super.counted(answer);
                if (more != null) {
                    more.take(answer);
                }
            }
        };
    }

    private List<String> fields(TableName table) {
        List<String> known = fields.get(table);
        return known == null
                ? tables.get(table).columns().stream()
                        .map(c -> TypedJson.escaped(c.name()))
                        .toList()
                : known;
    }

    @Override
    public Optional<Screen> screen(TablePart part) {
        return Optional.of(screen(part.table()));
    }

    @Override
    public Screen screen(TableName table) {
        // one that sends nothing
        return Screen.byWriting(() -> writer(table, "", "0", Mode.AGAIN, null));
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
        List<TableName> in =
                parts.keySet().stream().filter(t -> !out.contains(t)).toList();
        in.forEach(t -> mustBeWhole(t, written));
        Swap.place(
                client,
                in.stream().map(parts::get).toList(),
                out.stream().filter(parts::containsKey).map(parts::get).toList(),
                place::all);
        done = true;
        place.forget();
        try {
            LoadNote.clear(client, place.all());
        } catch (FerryException e) {
            findings.add(Finding.ofAll(
                    FindingCode.NOT_REMOVED,
                    "what the load needs no more can't be taken away, and goes with the next one: " + e.getMessage()));
        }
    }

    /** What the store has must be what was told to it. */
    private void mustBeWhole(TableName table, Written written) {
        long told = written.parts().stream()
                .filter(p -> p.part().table().equals(table))
                .mapToLong(p -> p.tally().rows())
                .sum();
        long there = client.get("collections", parts.get(table).incoming())
                .path("documents")
                .asLong();
        Grown more = grown.get(table);
        boolean merged = modes.of(table) == LoadMode.MERGE;
        long expected = more == null ? told : more.before + (merged ? more.inserted : told);
        boolean counted = more == null || !merged || more.inserted + more.changed + more.same == told;
        if (there != expected || !counted) {
            throw new PlaceException(
                    client.shown(),
                    "of table " + table + ", " + told + " records were written, and " + there
                            + " documents are there instead of " + expected + "; nothing was changed",
                    null);
        }
    }

    @Override
    public Optional<Merged> merged(TableName table) {
        return Optional.ofNullable(grown.get(table))
                .filter(g -> modes.of(table) == LoadMode.MERGE)
                .map(g -> new Merged(g.inserted, g.changed, g.same));
    }

    @Override
    public List<Finding> findings() {
        return List.copyOf(findings);
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return List.of();
    }

    @Override
    public void close() {
        if (!done) {
            done = true;
            client.resume();
            LoadNote.clear(client, place.all());
        }
    }
}
