package org.orderlyferry.documents;

import java.util.stream.Stream;
import org.orderlyferry.testkit.contract.Ends;
import org.orderlyferry.testkit.contract.LoadContract;

class StoreLoadsTest extends LoadContract {

    @Override
    protected Stream<Ends> ends() {
        return StorePlacesTest.stores();
    }
}
