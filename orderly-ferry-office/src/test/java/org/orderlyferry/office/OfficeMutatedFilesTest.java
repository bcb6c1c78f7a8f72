package org.orderlyferry.office;

import java.util.List;
import org.orderlyferry.testkit.contract.MutatedFilesContract;

class OfficeMutatedFilesTest extends MutatedFilesContract {

    @Override
    protected List<String> finds() {
        return List.of("label.xlsx|PK", "label.dbf|\u0003");
    }
}
