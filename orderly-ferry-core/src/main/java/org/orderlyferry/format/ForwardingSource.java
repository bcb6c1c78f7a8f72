package org.orderlyferry.format;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.Optional;
import org.apiguardian.api.API;

/**
 * Hands every call on to another file. What stands for a file begins here, so that nothing that a file can tell is lost by
 * being forgotten.
 */
@API(status = API.Status.INTERNAL)
public abstract class ForwardingSource implements FileSource {

    private final FileSource file;

    /** Stands for a file. */
    protected ForwardingSource(FileSource file) {
        this.file = file;
    }

    /** The file that calls go to. */
    protected final FileSource file() {
        return file;
    }

    @Override
    public String shown() {
        return file.shown();
    }

    @Override
    public String name() {
        return file.name();
    }

    @Override
    public InputStream open() throws IOException {
        return file.open();
    }

    @Override
    public Optional<FileSource> beside(String name) {
        return file.beside(name);
    }

    @Override
    public Optional<Path> seekable() {
        return file.seekable();
    }

    @Override
    public Optional<Path> onDisk() {
        return file.onDisk();
    }

    @Override
    public long bytes() {
        return file.bytes();
    }

    @Override
    public long firstLine() {
        return file.firstLine();
    }

    @Override
    public int files() {
        return file.files();
    }

    @Override
    public boolean isChanged() {
        return file.isChanged();
    }

    @Override
    public Optional<String> state() throws IOException {
        return file.state();
    }
}
