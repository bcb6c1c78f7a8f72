package org.orderlyferry.office.sheet;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import org.orderlyferry.io.Closing;
import org.orderlyferry.io.TemporaryFolder;

/**
 * A part of a file in which many sheets stand one after the other, and which can only be read from its beginning on where it is;
 * copied into the temporary folder for a while, it is read from any place on. Otherwise a file of hundreds of sheets would be read
 * hundreds of times.
 */
public final class UnpackedPart implements AutoCloseable {

    /** From so many sheets on it is worth the room; a table and its definitions are two. */
    public static final int MANY = 3;

    private static final int BUFFER = 64 * 1024;

    private final Path copy;

    private UnpackedPart(Path copy) {
        this.copy = copy;
    }

    /** Writes the part. */
    @FunctionalInterface
    public interface Content {

        void writeTo(OutputStream out) throws IOException;
    }

    /**
     * Copies it.
     *
     * @throws IOException if there is no room, or it can't be read; nothing is left then
     */
    public static UnpackedPart of(Content content) throws IOException {
        Path copy = TemporaryFolder.newFile(".part");
        try (OutputStream out = new BufferedOutputStream(TemporaryFolder.into(copy), BUFFER)) {
            content.writeTo(out);
        } catch (IOException | RuntimeException | Error e) {
            Closing.after(e, () -> Files.deleteIfExists(copy));
            throw e;
        }
        return new UnpackedPart(copy);
    }

    /** The part from a byte on. */
    public InputStream from(long place) throws IOException {
        FileChannel channel = FileChannel.open(copy, StandardOpenOption.READ);
        try {
            return new BufferedInputStream(Channels.newInputStream(channel.position(place)), BUFFER);
        } catch (IOException | RuntimeException e) {
            Closing.after(e, channel);
            throw e;
        }
    }

    @Override
    public void close() throws IOException {
        Files.deleteIfExists(copy);
    }
}
