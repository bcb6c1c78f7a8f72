package org.orderlyferry.cluster.hdfs;

import java.nio.file.Path;
import org.junit.jupiter.api.extension.AnnotatedElementContext;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.io.TempDirFactory;

/** Temporary folders of tests in HDFS: the tests don't know of it. */
public final class HdfsFolders implements TempDirFactory {

    @Override
    public Path createTempDirectory(AnnotatedElementContext element, ExtensionContext context) {
        return MiniCluster.folder();
    }
}
