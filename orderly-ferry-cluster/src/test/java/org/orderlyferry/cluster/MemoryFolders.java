package org.orderlyferry.cluster;

import com.google.common.jimfs.Configuration;
import com.google.common.jimfs.Jimfs;
import java.io.IOException;
import java.nio.file.FileSystem;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.extension.AnnotatedElementContext;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.io.TempDirFactory;

/** Temporary folders of tests in a file system in memory: the tests don't know of it. */
public final class MemoryFolders implements TempDirFactory {

    private final FileSystem memory = Jimfs.newFileSystem(Configuration.unix());

    @Override
    public Path createTempDirectory(AnnotatedElementContext element, ExtensionContext context) throws IOException {
        return Files.createDirectories(memory.getPath("/tried"));
    }

    @Override
    public void close() throws IOException {
        memory.close();
    }
}
