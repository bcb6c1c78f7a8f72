package org.orderlyferry.documents;

import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.contract.Ends;
import org.orderlyferry.testkit.contract.PlaceContract;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.LocalDocuments;
import org.orderlyferry.work.Load;

class DocumentPlacesTest extends PlaceContract {

    private static final LocalDocuments SERVER = LocalDocuments.start();
    private static final AtomicInteger NUMBER = new AtomicInteger();

    static Stream<Ends> stores() {
        return Stream.of("fields", "apart")
                .map(form -> new Ends(
                        "documents as " + form,
                        folder -> SERVER.url("d" + NUMBER.incrementAndGet()) + "?form=" + form,
                        true,
                        true));
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
