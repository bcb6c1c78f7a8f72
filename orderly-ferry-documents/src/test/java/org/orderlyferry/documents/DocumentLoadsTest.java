package org.orderlyferry.documents;

import java.util.stream.Stream;
import org.orderlyferry.testkit.contract.Ends;
import org.orderlyferry.testkit.contract.LoadContract;

class DocumentLoadsTest extends LoadContract {

    @Override
    protected Stream<Ends> ends() {
        return DocumentPlacesTest.stores();
    }
}
