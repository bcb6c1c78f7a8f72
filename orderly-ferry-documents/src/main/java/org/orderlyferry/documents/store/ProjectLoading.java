package org.orderlyferry.documents.store;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.orderlyferry.csvw.CsvwSchemaWriter;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;

/** Documents on their way: written into collections of ours, counted, and given their names by steps that are undone if one fails. */
final class ProjectLoading implements Loading {

    private final ProjectPlace place;
    private final Client client;
    private final Limits limits;
    private final Map<TableName, TableDefinition> tables = new LinkedHashMap<>();
    private final Map<TableName, LoadNote.Part> parts = new LinkedHashMap<>();
    private final Set<TableName> leftOut = ConcurrentHashMap.newKeySet();
    private final Set<Integer> begun = ConcurrentHashMap.newKeySet();
    private final List<Finding> findings = new ArrayList<>();
    private boolean done;

    /** The load as it would be, with nothing made. */
    ProjectLoading(ProjectPlace place, Client client, List<TableDefinition> sources) {
        this.place = place;
        this.client = client;
        this.limits = Limits.of(client);
        String load =
                Long.toHexString(System.nanoTime() & 0xFFFFFFFFL | 0x100000000L).substring(1);
        List<TableDefinition> named = place.named(sources);
        for (int i = 0; i < sources.size(); i++) {
            TableName source = sources.get(i).name();
            tables.put(source, sources.get(i));
            parts.put(source, LoadNote.part(named.get(i).name().name(), load, i + 1));
        }
        unkept(sources);
    }

    private void unkept(List<TableDefinition> sources) {
        String names = sources.stream()
                .filter(t -> !t.uniqueKeys().isEmpty()
                        || !t.foreignKeys().isEmpty()
                        || !t.checks().isEmpty()
                        || t.indexes().stream().anyMatch(i -> i.unique()))
                .map(t -> t.name().toString())
                .collect(Collectors.joining(", "));
        if (!names.isEmpty()) {
            findings.add(Finding.ofAll(
                    FindingCode.DEFINITION_DROPPED,
                    "unique keys, references and checks stay in the collections' descriptions, but the store looks at"
                            + " ids alone: " + names));
        }
    }

    /** Makes ready; nothing that is there is changed. */
    void begin() {
        LoadNote.write(client, LoadNote.WRITING, List.copyOf(parts.values()));
        try {
            List<TableDefinition> named = place.named(List.copyOf(tables.values()));
            int i = 0;
            for (LoadNote.Part part : parts.values()) {
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
        return new ProjectWriter(
                client,
                limits,
                parts.get(part.table()).incoming(),
                tables.get(part.table()),
                part.task(),
                !begun.add(part.task()));
    }

    @Override
    public Optional<Screen> screen(TablePart part) {
        return Optional.of(Screen.byWriting(() -> scratch(part.table())));
    }

    /** A writer that sends nothing. */
    RecordWriter scratch(TableName table) {
        return new ProjectWriter(client, limits, "", tables.get(table), 0, true) {
            @Override
            void deliver(byte[] body) {
                // only looked at
            }
        };
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
        List<LoadNote.Part> placed = in.stream().map(parts::get).toList();
        LoadNote.write(client, LoadNote.PLACING, placed);
        out.stream()
                .filter(parts::containsKey)
                .forEach(t -> LoadNote.remove(client, parts.get(t).incoming()));
        LoadNote.remove(client, LoadNote.WRITING);
        Set<String> there = place.all();
        for (LoadNote.Part part : placed) {
            if (there.contains(part.name())) {
                LoadNote.rename(client, part.name(), part.was());
            }
            LoadNote.rename(client, part.incoming(), part.name());
        }
        // from here on the load is there
        LoadNote.rename(client, LoadNote.PLACING, LoadNote.PLACED);
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
        if (there != told) {
            throw new PlaceException(
                    client.shown(),
                    "of table " + table + ", " + told + " records were written, and " + there
                            + " documents are there; nothing was changed",
                    null);
        }
    }

    @Override
    public Optional<Merged> merged(TableName table) {
        return Optional.empty();
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
