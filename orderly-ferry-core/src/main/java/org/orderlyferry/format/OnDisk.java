package org.orderlyferry.format;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.io.TemporaryFolder;
import org.orderlyferry.problem.PlaceException;

/**
 * A file that has to stand on the disk to be read at any place; one that doesn't is copied there for a while, where nobody
 * else may read it.
 */
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
        this(file, ".part");
    }

    /**
     * Takes a file whose name has to end in a certain way.
     *
     * @param ending of a copy's name
     * @throws IOException if it can't be copied
     */
    public OnDisk(FileSource file, String ending) throws IOException {
        Optional<Path> there = file.onDisk();
        this.copied = there.isEmpty();
        this.path = there.isPresent() ? there.get() : copy(file, ending);
    }

    /**
     * A copy in the temporary folder, which its owner alone may read.
     *
     * @param ending of its name
     * @throws IOException if it can't be made; nothing is left then
     */
    public static Path copy(FileSource file, String ending) throws IOException {
        Path copy = TemporaryFolder.newFile(ending);
        // into the file that was made: one that takes its place could be read by all
        try (InputStream in = file.open();
                OutputStream out = TemporaryFolder.into(copy)) {
            in.transferTo(out);
        } catch (IOException | RuntimeException | Error e) {
            Files.deleteIfExists(copy);
            throw e;
        }
        return copy;
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
