package org.orderlyferry.office;

import java.util.stream.Stream;
import org.orderlyferry.testkit.contract.Ends;
import org.orderlyferry.testkit.contract.FileEnds;
import org.orderlyferry.testkit.contract.LoadContract;

class OfficeLoadsTest extends LoadContract {

    @Override
    protected Stream<Ends> ends() {
        return FileEnds.of("org.orderlyferry.office");
    }
}
