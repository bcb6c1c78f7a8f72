package org.orderlyferry.databases.script;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.ForwardingSource;
import org.orderlyferry.format.OnDisk;
import org.orderlyferry.io.TemporaryFolder;
import org.orderlyferry.problem.PlaceException;

/**
 * A compressed script, unpacked once into a temporary file: each of its tables is read from where it stands, and a
 * compressed file can only be read from its beginning.
 */
final class UnpackedScript extends ForwardingSource {

    /** So much of the room for temporary files a script may take. */
    private static final int SHARE = 4;

    private final Path unpacked;

    private UnpackedScript(FileSource packed, Path unpacked) {
        super(packed);
        this.unpacked = unpacked;
    }

    /**
     * Unpacks a script, if there is much to be gained and room for it.
     *
     * @param tables how many tables it has
     * @param size of the unpacked script
     */
    static FileSource of(FileSource script, int tables, long size) {
        if (script.onDisk().isPresent() || tables < 2) {
            return script;
        }
        try {
            if (Files.getFileStore(TemporaryFolder.path()).getUsableSpace() / SHARE < size) {
                return script;
            }
            Path unpacked = OnDisk.copy(script, ".sql");
            unpacked.toFile().deleteOnExit();
            return new UnpackedScript(script, unpacked);
        } catch (IOException e) {
            throw new PlaceException(script.shown(), "can't be unpacked: " + e.getMessage(), e);
        }
    }

    /** Removes the temporary file. */
    void remove() {
        try {
            Files.deleteIfExists(unpacked);
        } catch (IOException e) {
            org.slf4j.LoggerFactory.getLogger(UnpackedScript.class).debug("{} can't be removed", unpacked, e);
        }
    }

    @Override
    public InputStream open() throws IOException {
        return Files.newInputStream(unpacked);
    }

    @Override
    public Optional<Path> onDisk() {
        return Optional.of(unpacked);
    }
}
