package org.orderlyferry.databases;

import java.util.stream.Stream;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.contract.Ends;
import org.orderlyferry.testkit.contract.FileEnds;
import org.orderlyferry.testkit.contract.PlaceContract;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

class DatabasePlacesTest extends PlaceContract {

    static Stream<Ends> databases() {
        return Stream.of(TestSystem.values()).map(s -> new Ends(s.toString(), s::fresh, true, true));
    }

    @Override
    protected Stream<Ends> ends() {
        return Stream.concat(databases(), FileEnds.of("org.orderlyferry.databases"));
    }

    @Override
    protected void fill(Ends ends, String address, ListedPlace truth) {
        try (TargetPlace target = Places.openTarget(address)) {
            Load.from(truth).into(target);
        }
    }
}
