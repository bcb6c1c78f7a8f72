package org.orderlyferry.documents.store;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.orderlyferry.csvw.CsvwSchemaReader;
import org.orderlyferry.documents.trial.TrialLoading;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.FieldCounts;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.RangedReader;
import org.orderlyferry.place.Removal;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** A project of a store of documents as a place. */
final class ProjectPlace implements TargetPlace {

    /** Requests that are underway at once, at most. */
    private static final int MOST_LANES = 4;

    private static final int MOST_DELETES = 500;

    private final Client client;
    private final Rejects rejects;
    private final Map<TableName, TableDefinition> defined = new HashMap<>();
    private final Map<TableName, FieldSurvey> surveys = new HashMap<>();
    private Map<String, JsonNode> collections = Map.of();

    ProjectPlace(Client client, Rejects rejects) {
        this.client = client;
        this.rejects = rejects;
    }

    /** The names of all collections, ours among them. */
    Set<String> all() {
        Map<String, JsonNode> found = new TreeMap<>();
        client.get("collections")
                .path("collections")
                .forEach(c -> found.put(c.path("name").asText(), c));
        collections = found;
        return new TreeSet<>(found.keySet());
    }

    void forget() {
        defined.clear();
        surveys.clear();
        collections = Map.of();
    }

    @Override
    public String address() {
        return client.shown();
    }

    @Override
    public String system() {
        return "store of documents";
    }

    @Override
    public List<TableName> tables() {
        return all().stream()
                .filter(c -> !LoadNote.isOurs(c))
                .map(TableName::of)
                .toList();
    }

    private JsonNode look(TableName table) {
        JsonNode known = collections.get(table.name());
        if (known == null || !table.schema().isEmpty()) {
            tables();
            known = table.schema().isEmpty() ? collections.get(table.name()) : null;
        }
        if (known == null || LoadNote.isOurs(table.name())) {
            throw new UsageException("there is no table " + table + " in " + client.shown());
        }
        return known;
    }

    @Override
    public TableDefinition define(TableName table) {
        TableDefinition known = defined.get(table);
        if (known == null) {
            look(table);
            JsonNode schema = client.get("collections", table.name()).path("description");
            known = schema.isObject()
                    ? new CsvwSchemaReader(client.shown())
                            .read(schema, table.name()).toBuilder().name(table).build()
                    : survey(table).table(table);
            defined.put(table, known);
        }
        return known;
    }

    private FieldSurvey survey(TableName table) {
        return surveys.computeIfAbsent(table, t -> FieldSurvey.of(client, t.name()));
    }

    @Override
    public Map<String, FieldCounts> fieldCounts(TableName table) {
        return keepsDefinition(table) ? Map.of() : survey(table).counts();
    }

    @Override
    public boolean keepsDefinition(TableName table) {
        define(table);
        return !surveys.containsKey(table);
    }

    @Override
    public long count(TableName table) {
        look(table);
        return client.get("collections", table.name()).path("documents").asLong();
    }

    @Override
    public OptionalLong bytes(TableName table) {
        return OptionalLong.of(look(table).path("bytes").asLong());
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return tables().isEmpty()
                ? List.of()
                : List.of(new LeftBehind("one moment", "(all)", "the store reads page by page, and has no snapshots"));
    }

    @Override
    public Rejects rejects() {
        return rejects;
    }

    @Override
    public RecordReader read(Slice slice) {
        return read(slice, rejects);
    }

    @Override
    public RecordReader read(Slice slice, Rejects hearing) {
        TableDefinition table = define(slice.table()).withColumns(slice.columns());
        List<String> fields = fields(slice.table(), table);
        Pages pages = new Pages(client, slice.table().name());
        return RangedReader.of(new ProjectReader(client, pages, table, fields, hearing), slice);
    }

    /** What columns are called in the documents of a collection that is there; empty for their id. */
    List<String> fields(TableName collection, TableDefinition columns) {
        boolean described = keepsDefinition(collection);
        return columns.columns().stream()
                .map(c -> described ? TypedJson.escaped(c.name()) : field(c.name()))
                .toList();
    }

    /** The field of a column that was named after it; empty for the id. */
    private static String field(String column) {
        if (column.equals(FieldSurvey.ID)) {
            return "";
        }
        return TypedJson.escaped(column.matches("id_+") ? column.substring(0, column.length() - 1) : column);
    }

    @Override
    public Companions companions(int count) {
        List<Place> others = new ArrayList<>();
        for (int i = 0; i < Math.min(count, MOST_LANES); i++) {
            ProjectPlace other = new ProjectPlace(client, rejects);
            other.defined.putAll(defined);
            other.surveys.putAll(surveys);
            other.collections = collections;
            others.add(other);
        }
        return new Companions(others, List.of());
    }

    @Override
    public List<TableDefinition> named(List<TableDefinition> others) {
        return others.stream()
                .map(t -> t.toBuilder()
                        .name(named(t.name()))
                        .foreignKeys(t.foreignKeys().stream()
                                .map(k -> new ForeignKey(
                                        k.name(),
                                        k.columns(),
                                        named(k.target()),
                                        k.targetColumns(),
                                        k.onUpdate(),
                                        k.onDelete(),
                                        k.deferrability()))
                                .toList())
                        .build())
                .toList();
    }

    /** A schema is a part of the name. */
    private static TableName named(TableName name) {
        return TableName.of(name.schema().isEmpty() ? name.name() : name.schema() + "." + name.name());
    }

    @Override
    public int mostLanes() {
        return MOST_LANES;
    }

    @Override
    public Loading begin(List<TableDefinition> tables, LoadModes modes, String plan) {
        clear("");
        ProjectLoading loading = plan(tables, modes);
        loading.begin();
        return loading;
    }

    @Override
    public Loading rehearse(List<TableDefinition> tables, LoadModes modes) {
        return new TrialLoading(plan(tables, modes));
    }

    private ProjectLoading plan(List<TableDefinition> tables, LoadModes modes) {
        Set<String> there = all();
        there.stream().filter(LoadNote::isOurs).findFirst().ifPresent(c -> {
            throw new UsageException(client.shown() + " has a collection " + c
                    + " that is of no load, and whose name a load needs; rename it");
        });
        Set<String> names = new TreeSet<>();
        List<TableDefinition> named = named(tables);
        for (int i = 0; i < named.size(); i++) {
            TableDefinition table = named.get(i);
            LoadMode mode = modes.of(tables.get(i).name());
            String name = table.name().name();
            if (LoadNote.isOurs(name) || !names.add(name)) {
                throw new UsageException("no collection for table " + name + ": its name is "
                        + (LoadNote.isOurs(name) ? "one that a load needs" : "another table's too"));
            }
            if (there.contains(name) && mode == LoadMode.CREATE) {
                throw new UsageException("table " + name + " is there already in " + client.shown()
                        + "; nothing was changed. It can be replaced as a whole");
            }
            if (there.contains(name)
                    && mode == LoadMode.MERGE
                    && table.primaryKey().isEmpty()) {
                throw new UsageException("table " + name + " has no key to merge by");
            }
        }
        return new ProjectLoading(this, client, tables, modes, there);
    }

    @Override
    public Leftover clear(String plan) {
        Leftover left = LoadNote.clear(client, all());
        forget();
        return left;
    }

    @Override
    public void remove(List<TableName> tables) {
        Set<String> there = all();
        tables.stream()
                .map(ProjectPlace::named)
                .map(TableName::name)
                .filter(there::contains)
                .forEach(t -> LoadNote.remove(client, t));
        forget();
    }

    @Override
    public long delete(Removal removal) {
        TableDefinition key = removal.key();
        clear("");
        LoadNote.Part part = LoadNote.part(
                named(key.name()).name(),
                Long.toHexString(System.nanoTime() | 0x10000000L).substring(0, 8),
                1);
        LoadNote.write(client, LoadNote.WRITING, List.of(part));
        boolean done = false;
        try (RecordReader keys = removal.keys().get()) {
            Swap.copy(client, part.name(), part.incoming());
            long gone = 0;
            DocumentIds ids = new DocumentIds(key, "");
            RecordBatch batch = new RecordBatch();
            while (keys.read(batch)) {
                ArrayNode writes = Client.JSON.createArrayNode();
                for (int row = 0; row < batch.rows(); row++) {
                    writes.addObject().put("id", ids.next(batch, row)).put("gone", true);
                    if (writes.size() == MOST_DELETES || row == batch.rows() - 1) {
                        gone += Swap.write(client, part.incoming(), writes)
                                .path("gone")
                                .asLong();
                        writes = Client.JSON.createArrayNode();
                    }
                }
            }
            Swap.place(client, List.of(part), List.of(), this::all);
            done = true;
            return gone;
        } finally {
            if (!done) {
                client.resume();
            }
            clear("");
        }
    }

    @Override
    public void cancel() {
        client.stop();
    }

    @Override
    public void close() {
        // connections go by themselves
    }
}
