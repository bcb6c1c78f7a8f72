package org.orderlyferry.columnar;

import java.util.List;
import org.orderlyferry.testkit.contract.MutatedFilesContract;

class ColumnarMutatedFilesTest extends MutatedFilesContract {

    @Override
    protected List<String> finds() {
        return List.of("label.parquet|PAR1");
    }
}
