package org.orderlyferry.format;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.problem.PlaceException;

/** A file that has to stand on the disk to be read at any place; one that doesn't is copied there for a while. */
@API(status = API.Status.INTERNAL)
public final class OnDisk implements AutoCloseable {

    private final Path path;
    private final boolean copied;

    /**
     * Takes a file.
     *
     * @throws IOException if it can't be copied
     */
    public OnDisk(FileSource file) throws IOException {
        Optional<Path> there = file.onDisk();
        this.copied = there.isEmpty();
        this.path = there.isPresent() ? there.get() : Files.createTempFile("orderly-ferry-", ".part");
        if (copied) {
            try (InputStream in = file.open()) {
                Files.copy(in, path, StandardCopyOption.REPLACE_EXISTING);
            } catch (IOException | RuntimeException e) {
                close();
                throw e;
            }
        }
    }

    /** Where it stands. */
    public Path path() {
        return path;
    }

    @Override
    public void close() {
        if (copied) {
            try {
                Files.deleteIfExists(path);
            } catch (IOException e) {
                throw new PlaceException(path.toString(), "can't be removed: " + e.getMessage(), e);
            }
        }
    }
}
