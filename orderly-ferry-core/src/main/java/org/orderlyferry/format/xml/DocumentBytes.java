package org.orderlyferry.format.xml;

import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.Optional;
import org.orderlyferry.format.FileSource;

/**
 * A document that is held in memory, with nothing beside it.
 *
 * @param shown what it is called in messages
 * @param name without a folder
 * @param content its bytes; nobody may change them
 */
record DocumentBytes(String shown, String name, byte[] content) implements FileSource {
    @Override
    public InputStream open() {
        return new ByteArrayInputStream(content);
    }

    @Override
    public Optional<FileSource> beside(String name) {
        return Optional.empty();
    }

    @Override
    public Optional<Path> onDisk() {
        return Optional.empty();
    }

    @Override
    public long bytes() {
        return content.length;
    }
}
