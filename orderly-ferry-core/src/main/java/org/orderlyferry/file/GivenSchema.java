package org.orderlyferry.file;

import java.io.IOException;
import java.util.Optional;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.ForwardingSource;

/** A file whose schema, of its own standard, was given and need not stand beside it. */
final class GivenSchema extends ForwardingSource {

    private final FileSource schema;
    private final String ending;

    /**
     * A file with a schema.
     *
     * @param ending what the name of a schema of this kind ends in
     */
    GivenSchema(FileSource file, FileSource schema, String ending) {
        super(file);
        this.schema = schema;
        this.ending = ending;
    }

    @Override
    public Optional<FileSource> beside(String name) {
        return name.equals(baseName() + ending) ? Optional.of(schema) : super.beside(name);
    }

    @Override
    public Optional<String> state() throws IOException {
        Optional<String> told = schema.state();
        return super.state().flatMap(one -> told.map(other -> one + " " + other));
    }
}
