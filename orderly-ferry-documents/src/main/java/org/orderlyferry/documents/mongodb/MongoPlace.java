package org.orderlyferry.documents.mongodb;

import com.mongodb.client.model.DeleteOneModel;
import com.mongodb.client.model.WriteModel;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonString;
import org.bson.RawBsonDocument;
import org.bson.types.ObjectId;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.documents.trial.TrialLoading;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Expectation;
import org.orderlyferry.place.FieldCounts;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.RangedReader;
import org.orderlyferry.place.Removal;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.progress.PiecesAhead;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** A database of documents as a place. */
final class MongoPlace implements TargetPlace {

    /** How many writers a server is given at once. */
    private static final int MOST_LANES = 8;

    private final Server server;
    private final StoreAddress address;
    private final Rejects rejects;
    private final boolean owner;
    private Collections collections;

    MongoPlace(Server server, StoreAddress address, Rejects rejects) {
        this(server, address, rejects, true, new Collections(server, address));
    }

    private MongoPlace(Server server, StoreAddress address, Rejects rejects, boolean owner, Collections collections) {
        this.server = server;
        this.address = address;
        this.rejects = rejects;
        this.owner = owner;
        this.collections = collections;
    }

    private void forget() {
        collections = new Collections(server, address);
    }

    @Override
    public String address() {
        return address.shown();
    }

    @Override
    public String system() {
        return Held.SYSTEM
                + server.asked(new BsonDocument("buildInfo", new BsonInt32(1)))
                        .filter(i -> i.isString("version"))
                        .map(i -> " " + i.getString("version").getValue())
                        .orElse("");
    }

    @Override
    public List<TableName> tables() {
        return collections.tables();
    }

    @Override
    public TableDefinition define(TableName table) {
        return collections.define(table);
    }

    @Override
    public TableDefinition define(TableName table, List<ColumnDefinition> also) {
        return collections.define(table, also);
    }

    @Override
    public Map<String, FieldCounts> fieldCounts(TableName table) {
        return collections.counts(collections.seen(table));
    }

    @Override
    public long count(TableName table) {
        Collections.Seen seen = collections.seen(table);
        return seen.list().isEmpty()
                ? server.work("table " + table + " can't be counted", () -> server.count(seen.collection()))
                : listed(seen);
    }

    /** A list's elements are counted by reading, as they were when the fields were found out, or all of them. */
    private long listed(Collections.Seen seen) {
        return address.sample() == 0
                ? collections.records(seen)
                : Survey.of(server, address.ofAll(), seen.collection()).records(seen.list());
    }

    @Override
    public long estimate(TableName table) {
        Collections.Seen seen = collections.seen(table);
        return seen.list().isEmpty()
                ? server.work("table " + table + " can't be looked up", () -> server.collection(seen.collection())
                        .estimatedDocumentCount())
                : collections.records(seen);
    }

    @Override
    public OptionalLong bytes(TableName table) {
        Collections.Seen seen = collections.seen(table);
        return seen.list().isEmpty()
                ? server.asked(new BsonDocument("collStats", new BsonString(seen.collection())))
                        .filter(s -> s.isNumber("size"))
                        .map(s -> OptionalLong.of(s.getNumber("size").longValue()))
                        .orElse(OptionalLong.empty())
                : OptionalLong.empty();
    }

    @Override
    public List<TableDefinition> named(List<TableDefinition> others) {
        StoreNames names =
                new StoreNames(others, ListTable.among(others, Set.of()).keySet());
        return others.stream().map(names::of).toList();
    }

    @Override
    public Optional<Expectation> expected(List<TableDefinition> others) {
        LoadTables plan = new LoadTables(others, LoadModes.CREATE, Set.of(), address.ofTables());
        return Optional.of(new Expectation(
                plan.kept(), UnaryOperator.identity(), type -> ownType(type).orElse("any"), plan.leftBehind()));
    }

    /** Whether the server keeps one; otherwise it is found out from the documents. */
    @Override
    public boolean keepsDefinition(TableName table) {
        return collections.validator(collections.seen(table)).isPresent();
    }

    @Override
    public List<String> databases() {
        return address.database().isPresent() ? List.of() : server.databases();
    }

    @Override
    public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        Collections.Seen seen = collections.seen(table.name());
        return seen.list().isEmpty()
                ? server.work(
                        "table " + table.name() + " can't be cut into slices",
                        () -> new IdRanges(server, seen.collection(), table).cut(rows, cut))
                : List.of(Slice.whole(table));
    }

    @Override
    public List<Finding> notices() {
        return collections.findings();
    }

    @Override
    public List<LeftBehind> leftBehind() {
        List<LeftBehind> all = new ArrayList<>(collections.leftBehind());
        if (address.database().isPresent() && !collections.tables().isEmpty() && !server.isOfOneMoment()) {
            all.add(new LeftBehind(
                    "one moment",
                    "(all)",
                    address.oneMoment()
                            ? "the server reads no snapshots, so each collection is as it was when it was read"
                            : "each collection is as it was when it was read, as told by moment=each"));
        }
        return all;
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
        TableDefinition table = define(slice.table());
        Collections.Seen seen = collections.seen(slice.table());
        IdRanges ranges = new IdRanges(server, seen.collection(), table);
        // elements of lists are found in all documents, and texts of JSON have an order of their own
        boolean byServer = seen.list().isEmpty() && ranges.areKnown(slice.range());
        BsonDocument filter = byServer ? ranges.filter(slice.range()) : new BsonDocument();
        PiecesAhead<RawBsonDocument> documents = Batches.ahead(
                server.work("table " + table.name() + " can't be read", () -> server.find(seen.collection(), filter)
                        .iterator()));
        RecordReader reader = address.form() == Form.APART
                ? new PartsReader(server, documents, table, slice.columns(), address.leftOut(), seen.list(), hearing)
                : new FieldsReader(server, documents, table, slice.columns(), address.leftOut(), hearing);
        return byServer ? reader : RangedReader.of(reader, slice);
    }

    /** The driver keeps as many connections as are needed; but those who read as of one moment do so one after the other. */
    @Override
    public Companions companions(int count) {
        if (server.isOfOneMoment()) {
            return new Companions(
                    List.of(),
                    List.of(Finding.ofAll(
                            FindingCode.LANE_CHANGED,
                            "a snapshot is read over one connection; moment=each in the address reads over several")));
        }
        List<Place> others = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            others.add(new MongoPlace(server, address, rejects, false, collections.copy()));
        }
        return new Companions(others, List.of());
    }

    @Override
    public int mostLanes() {
        return MOST_LANES;
    }

    @Override
    public Loading begin(List<TableDefinition> tables, LoadModes modes, String plan) {
        clear("");
        return server.work(
                "the collections can't be made",
                () -> DocumentLoading.begin(server, plan(tables, modes), address.writesNulls(), this::forget));
    }

    @Override
    public Loading rehearse(List<TableDefinition> tables, LoadModes modes) {
        return server.work("the load can't be tried", () -> new TrialLoading(plan(tables, modes)));
    }

    private LoadTables plan(List<TableDefinition> tables, LoadModes modes) {
        return new LoadTables(tables, modes, new Collections(server, address).collections(), address);
    }

    @Override
    public Leftover clear(String plan) {
        forget();
        return server.work("what a killed load has left can't be put right", () -> Placing.clear(server));
    }

    @Override
    public void remove(List<TableName> tables) {
        server.work("the collections can't be taken away", () -> {
            server.drop(tables.stream().map(TableName::name).toList());
            return null;
        });
        forget();
    }

    @Override
    public Optional<String> ownType(LogicalType type) {
        return Held.of(ColumnDefinition.of("value", type), "").word();
    }

    @Override
    public long delete(Removal removal) {
        TableDefinition key = removal.key();
        TableDefinition named = named(List.of(key)).get(0);
        LoadTable table = new LoadTable(
                key, named, new LoadNote.Part(named.name().name(), Optional.empty(), 1), false, Optional.empty());
        DocumentMaker maker = table.maker();
        ObjectId none = GeneratedId.of(0, 0, 0);
        RecordBatch batch = new RecordBatch();
        return server.work("records of table " + key.name() + " can't be taken out", () -> {
            long gone = 0;
            try (RecordReader keys = removal.keys().get()) {
                while (keys.read(batch)) {
                    List<WriteModel<BsonDocument>> deletes = new ArrayList<>();
                    for (int row = 0; row < batch.rows(); row++) {
                        deletes.add(new DeleteOneModel<>(
                                new BsonDocument(KeyStats.ID, Documents.id(maker.document(batch, row, none)))));
                    }
                    gone += server.database()
                            .getCollection(named.name().name(), BsonDocument.class)
                            .bulkWrite(deletes)
                            .getDeletedCount();
                }
            }
            return gone;
        });
    }

    @Override
    public void cancel() {
        server.stop();
    }

    @Override
    public void close() {
        if (owner) {
            server.close();
        }
    }
}
