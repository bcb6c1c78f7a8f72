package org.orderlyferry.documents.store;

import java.nio.file.Path;
import java.security.KeyPair;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.documents.simulated.SimulatedStore;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** A store of its own for each test. */
abstract class StoreCase {
    /** The same for all: to make some takes longer than what is tried with them. */
    protected static final KeyPair KEYS = SimulatedStore.newPair();

    @TempDir
    Path folder;

    SimulatedStore store;
    Path key;
    String address;

    @BeforeEach
    void start() {
        store = SimulatedStore.start();
        key = folder.resolve("key.json");
        store.makeKey("herbarium", key, KEYS);
        address = store.url("herbarium", key);
    }

    @AfterEach
    void stop() {
        store.close();
    }

    TransferResult load(ListedPlace source, LoadMode mode) {
        try (TargetPlace target = Places.openTarget(address)) {
            return Load.from(source).mode(mode).into(target);
        }
    }

    /** The records of all tables, by their names. */
    Map<String, List<String>> state() {
        Map<String, List<String>> state = new TreeMap<>();
        try (Place place = Places.open(address)) {
            for (TableName table : place.tables()) {
                List<String> rows = new ArrayList<>();
                Contents.of(place.read(Slice.whole(place.define(table)))).forEach(r -> rows.add(r.toString()));
                rows.sort(null);
                state.put(table.name(), rows);
            }
        }
        return state;
    }

    /** Documents as somebody else would write them. */
    void write(String collection, String writes) {
        client().send("PUT", "{}".getBytes(java.nio.charset.StandardCharsets.UTF_8), "collections", collection);
        client().write(collection, ("{\"writes\":[" + writes + "]}").getBytes(java.nio.charset.StandardCharsets.UTF_8));
    }

    Client client() {
        return new Client(
                ProjectAddress.of(
                        org.orderlyferry.place.PlaceAddress.of(address), org.orderlyferry.place.Secrets.unattended()),
                KeyFile.read(key));
    }
}
