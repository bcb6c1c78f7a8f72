package org.orderlyferry.databases;

import java.util.stream.Stream;
import org.orderlyferry.testkit.contract.Ends;
import org.orderlyferry.testkit.contract.FileEnds;
import org.orderlyferry.testkit.contract.LoadContract;

class DatabaseLoadsTest extends LoadContract {

    @Override
    protected Stream<Ends> ends() {
        return Stream.concat(DatabasePlacesTest.databases(), FileEnds.of("org.orderlyferry.databases"));
    }
}
