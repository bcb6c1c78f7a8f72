package org.orderlyferry.format;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.Optional;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;

/** A file to be read, wherever it stands: on the disk, compressed or not, or inside of another file. */
@NullMarked
public interface FileSource {

    /** Its name, for messages. */
    String shown();

    /** Its name without folder and without what tells of a compression, for example {@code loan.jsonl}. */
    String name();

    /** Its bytes, uncompressed; may be opened again and again. */
    InputStream open() throws IOException;

    /** A file that stands beside it, if there is one. */
    Optional<FileSource> beside(String name);

    /** Where it stands on the disk just as it is read. */
    Optional<Path> onDisk();

    /** Where it stands just as it is read, on the disk or in another file system whose files can be read from any place on. */
    default Optional<Path> seekable() {
        return onDisk();
    }

    /** How many bytes it takes where it stands; -1 where nobody can tell. */
    long bytes();

    /** The line that its first byte stands on: another than 1 where it is a piece of a file. */
    default long firstLine() {
        return 1;
    }

    /** How many files it is made of. */
    default int files() {
        return 1;
    }

    /**
     * A text that is the same for as long as its bytes are; empty where that can't be told. Reads all of them.
     *
     * @throws IOException if it can't be read
     */
    default Optional<String> state() throws IOException {
        return Optional.empty();
    }

    /** Whether somebody has written to it since it was opened here for the first time, as far as its size and time tell. */
    default boolean isChanged() {
        return false;
    }

    /** What formats have opened of it and use again for the next of its tables. */
    @API(status = API.Status.INTERNAL)
    default OpenedFiles opened() {
        return OpenedFiles.NONE;
    }

    /** Its name without the ending. */
    default String baseName() {
        String name = name();
        int point = name.lastIndexOf('.');
        return point > 0 ? name.substring(0, point) : name;
    }

    /** What its name ends in, in lower case, without the point. */
    default String ending() {
        String name = name();
        return name.substring(name.lastIndexOf('.') + 1).toLowerCase(java.util.Locale.ROOT);
    }
}
