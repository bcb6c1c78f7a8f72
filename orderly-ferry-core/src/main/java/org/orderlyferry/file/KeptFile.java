package org.orderlyferry.file;

import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.ForwardingSource;
import org.orderlyferry.format.OpenedFiles;

/** A file of which a format may keep open what it has opened, until the file's place is closed. */
final class KeptFile extends ForwardingSource implements AutoCloseable {

    private final OpenedFiles opened = new OpenedFiles();

    KeptFile(FileSource file) {
        super(file);
    }

    @Override
    public OpenedFiles opened() {
        return opened;
    }

    @Override
    public void close() {
        opened.close();
    }
}
