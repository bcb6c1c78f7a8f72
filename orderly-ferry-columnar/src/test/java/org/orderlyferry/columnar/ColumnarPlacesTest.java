package org.orderlyferry.columnar;

import java.util.stream.Stream;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.contract.Ends;
import org.orderlyferry.testkit.contract.FileEnds;
import org.orderlyferry.testkit.contract.PlaceContract;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Load;

class ColumnarPlacesTest extends PlaceContract {

    @Override
    protected Stream<Ends> ends() {
        return FileEnds.of("org.orderlyferry.columnar");
    }

    @Override
    protected void fill(Ends ends, String address, ListedPlace truth) {
        try (TargetPlace target = Places.openTarget(address)) {
            Load.from(truth).into(target);
        }
    }
}
