package org.orderlyferry.databases.place;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.problem.PlaceException;
import org.slf4j.LoggerFactory;

/**
 * The file of a database that is loaded. One that was made for the load goes again if nothing comes into it; another
 * load may have found it there meanwhile, so it goes only while it is the very file that was made, and its database is
 * empty. And the other load sees at its end that its records went into a file that is still there.
 */
final class TargetFile {

    /** A database file and those that SQLite puts beside it; a journal left behind would spoil the next database. */
    private static final List<String> ENDINGS = List.of("", "-journal", "-wal", "-shm");

    private final Path file;
    private final Optional<Object> identity;
    private final boolean made;

    private TargetFile(Path file, Optional<Object> identity, boolean made) {
        this.file = file;
        this.identity = identity;
        this.made = made;
    }

    /** Whether it was made for the load. */
    boolean isMade() {
        return made;
    }

    /** A file that is there already. */
    static Optional<TargetFile> existing(Path file) {
        try {
            return Files.isRegularFile(file)
                    ? Optional.of(new TargetFile(file, identity(file), false))
                    : Optional.empty();
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    /** Makes an empty file, if this is the one that makes it; nothing where it is there, or its folder isn't. */
    static Optional<TargetFile> make(Path file) {
        try {
            Files.createFile(file);
            return Optional.of(new TargetFile(file, identity(file), true));
        } catch (FileAlreadyExistsException | NoSuchFileException e) {
            return Optional.empty();
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be made: " + e.getMessage(), e);
        }
    }

    /** A file that a driver makes itself when it opens it, and keeps others from opening. */
    static Optional<TargetFile> byDriver(Path file) {
        return Files.exists(file) ? Optional.empty() : Optional.of(new TargetFile(file, Optional.empty(), true));
    }

    private static Optional<Object> identity(Path file) throws IOException {
        return Optional.ofNullable(
                Files.readAttributes(file, BasicFileAttributes.class).fileKey());
    }

    /**
     * Sees to it that the file is still where it was made: records that went into one that somebody has removed are gone.
     *
     * @throws PlaceException if not
     */
    void mustBeThere() {
        try {
            if (identity.isPresent() && !identity(file).equals(identity)) {
                throw new PlaceException(file.toString(), "was replaced by another file while it was loaded", null);
            }
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "was removed while it was loaded", e);
        }
    }

    /** Takes the file away, if it is still the one that was made. */
    void remove() {
        try {
            if (!made
                    || !Files.exists(file)
                    || identity.isPresent() && !identity(file).equals(identity)) {
                return;
            }
            for (String ending : ENDINGS) {
                Files.deleteIfExists(file.resolveSibling(file.getFileName() + ending));
            }
        } catch (IOException e) {
            throw new PlaceException(
                    file.toString(), "was made for nothing and can't be removed: " + e.getMessage(), e);
        }
    }

    /** Takes away what is left when the database couldn't be opened at all. */
    void removeIfEmpty() {
        try {
            if (Files.exists(file) && Files.size(file) == 0) {
                remove();
            }
        } catch (IOException e) {
            LoggerFactory.getLogger(TargetFile.class).warn("{} is empty and can't be removed", file, e);
        }
    }
}
