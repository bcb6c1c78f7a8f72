package org.orderlyferry.format;

import java.util.List;
import org.orderlyferry.testkit.contract.MutatedFilesContract;

class CoreMutatedFilesTest extends MutatedFilesContract {

    @Override
    protected List<String> finds() {
        return List.of("label.xml|<!DOCTYPE a [", "label.json|{\"a\":[{\"b\":1}");
    }
}
