package org.orderlyferry.columnar;

import java.util.stream.Stream;
import org.orderlyferry.testkit.contract.Ends;
import org.orderlyferry.testkit.contract.FileEnds;
import org.orderlyferry.testkit.contract.LoadContract;

class ColumnarLoadsTest extends LoadContract {

    @Override
    protected Stream<Ends> ends() {
        return FileEnds.of("org.orderlyferry.columnar");
    }
}
