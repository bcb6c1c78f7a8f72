package org.orderlyferry.documents;

import java.nio.file.Path;
import java.security.KeyPair;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.orderlyferry.documents.simulated.SimulatedStore;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.contract.Ends;
import org.orderlyferry.testkit.contract.PlaceContract;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Load;

class StorePlacesTest extends PlaceContract {

    private static final SimulatedStore STORE = SimulatedStore.start();
    /** The same for all: to make some takes longer than what is tried with them. */
    private static final KeyPair KEYS = SimulatedStore.newPair();

    private static final AtomicInteger NUMBER = new AtomicInteger();

    static Stream<Ends> stores() {
        return Stream.of(new Ends("a store with a key file", StorePlacesTest::fresh, true, true));
    }

    /** A project of its own; its key lies beside the folder, which a load leaves as it is. */
    private static String fresh(Path folder) {
        String project = "p" + NUMBER.incrementAndGet();
        Path key = folder.resolveSibling(folder.getFileName() + "-" + project + ".json");
        STORE.makeKey(project, key, KEYS);
        key.toFile().deleteOnExit();
        return STORE.url(project, key);
    }

    @Override
    protected Stream<Ends> ends() {
        return stores();
    }

    @Override
    protected void fill(Ends ends, String address, ListedPlace truth) {
        try (TargetPlace target = Places.openTarget(address)) {
            Load.from(truth).into(target);
        }
    }
}
