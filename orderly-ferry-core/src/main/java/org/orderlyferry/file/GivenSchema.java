package org.orderlyferry.file;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.Optional;
import org.orderlyferry.format.FileSource;

/** A file whose schema, of its own standard, was given and need not stand beside it. */
record GivenSchema(FileSource file, FileSource schema, String ending) implements FileSource {

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
        return name.equals(file.baseName() + ending) ? Optional.of(schema) : file.beside(name);
    }

    @Override
    public Optional<Path> onDisk() {
        return file.onDisk();
    }

    @Override
    public Optional<String> state() throws IOException {
        Optional<String> told = schema.state();
        return file.state().flatMap(one -> told.map(other -> one + " " + other));
    }

    @Override
    public long bytes() {
        return file.bytes();
    }
}
