package org.orderlyferry.documents.mongodb;

import com.mongodb.client.MongoClient;
import com.mongodb.client.MongoClients;
import com.mongodb.client.MongoCollection;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.LocalDocuments;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** A server, sheets of a herbarium, and how they are loaded and looked at. */
abstract class DocumentLoadCase {

    private static final AtomicInteger NUMBER = new AtomicInteger();
    static final PlayedServer PLAYED = new PlayedServer();

    static final TableDefinition SHEET = TableDefinition.named("sheet")
            .column(ColumnDefinition.named("no", LogicalType.INTEGER)
                    .nullable(false)
                    .build())
            .column(ColumnDefinition.named("name", LogicalType.varchar(20))
                    .nullable(false)
                    .build())
            .column("found", LogicalType.DATE)
            .column("seen", LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 3))
            .column("mass", LogicalType.decimal(12, 3))
            .column("code", LogicalType.of(TypeName.CHARACTER, 6))
            .primaryKey("no")
            .unique(new Key("sheet_code", List.of("code")))
            .unique(new Key("sheet_named", List.of("name")))
            .index(IndexDefinition.of("sheet_name", false, List.of("name", "found")))
            .build();

    static LocalDocuments server;
    static MongoClient client;

    final String database = "herb" + NUMBER.incrementAndGet();

    @TempDir
    Path folder;

    @BeforeAll
    static void start() {
        server = LocalDocuments.start(PLAYED);
        client = MongoClients.create(server.url(""));
    }

    @AfterAll
    static void stop() {
        client.close();
        server.close();
    }

    static ListedPlace sheets(int from, int to, String name) {
        return new ListedPlace()
                .with(
                        SHEET,
                        IntStream.range(from, to)
                                .mapToObj(i -> Arrays.asList(
                                        Integer.toString(i),
                                        name + i,
                                        i % 3 == 0 ? null : "2031-04-09",
                                        "2031-04-09T11:30:00.125Z",
                                        i % 2 == 0 ? null : "12.500",
                                        i % 5 == 0 ? null : "c" + i))
                                .toList());
    }

    final String url(String parameters) {
        return server.url(database) + parameters;
    }

    final TransferResult load(Place source, LoadMode mode) {
        return load(source, mode, "");
    }

    final TransferResult load(Place source, LoadMode mode, String parameters) {
        try (TargetPlace target = Places.openTarget(url(parameters))) {
            return Load.from(source).mode(mode).into(target);
        }
    }

    final MongoCollection<BsonDocument> collection(String name) {
        return client.getDatabase(database).getCollection(name, BsonDocument.class);
    }

    final List<BsonDocument> documents(String name) {
        return collection(name)
                .find()
                .sort(new BsonDocument("_id", new BsonInt32(1)))
                .into(new ArrayList<>());
    }

    final List<String> names() {
        return client.getDatabase(database).listCollectionNames().into(new ArrayList<>());
    }

    final ReconcileResult reconcile(Place source, String parameters) {
        try (Place target = Places.open(url(parameters))) {
            return Reconcile.between(source, target).depth(Depth.ROWS).compare();
        }
    }
}
