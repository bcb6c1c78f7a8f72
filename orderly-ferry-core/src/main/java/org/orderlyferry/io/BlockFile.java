package org.orderlyferry.io;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import org.apiguardian.api.API;
import org.orderlyferry.problem.PlaceException;

/** A file to which blocks are added, and read again from where they were put. Safe for use by several threads. */
@API(status = API.Status.INTERNAL)
public final class BlockFile implements AutoCloseable {

    private final String shown;
    private final String what;
    private final FileChannel file;
    private long end;

    private BlockFile(String shown, String what, Path path, OpenOption... options) throws IOException {
        this.shown = shown;
        this.what = what;
        this.file = FileChannel.open(path, options);
        this.end = file.size();
    }

    /**
     * One that is gone when it is closed, or with its process, however that ends.
     *
     * @param what is in it, for messages
     * @throws PlaceException if it can't be made
     */
    public static BlockFile temporary(String what) {
        String shown = "the temporary folder";
        try {
            return new BlockFile(
                    shown,
                    what,
                    Files.createTempFile("orderly-ferry-" + what, null),
                    StandardOpenOption.READ,
                    StandardOpenOption.WRITE,
                    StandardOpenOption.DELETE_ON_CLOSE);
        } catch (IOException e) {
            throw failed(shown, what + " can't be kept there", e);
        }
    }

    /**
     * One that stays, and may be there already.
     *
     * @param what is in it, for messages
     * @throws PlaceException if it can't be opened
     */
    public static BlockFile kept(Path path, String what) {
        try {
            return new BlockFile(
                    path.toString(),
                    what,
                    path,
                    StandardOpenOption.CREATE,
                    StandardOpenOption.READ,
                    StandardOpenOption.WRITE);
        } catch (IOException e) {
            throw failed(path.toString(), what + " can't be kept there", e);
        }
    }

    private static PlaceException failed(String shown, String text, IOException e) {
        return new PlaceException(shown, text + ": " + e.getMessage(), e);
    }

    /** How many bytes it has. */
    public synchronized long size() {
        return end;
    }

    /**
     * Adds a block, the rest of a buffer.
     *
     * @return where it was put
     * @throws PlaceException if it can't be written
     */
    public long add(ByteBuffer block) {
        long at;
        synchronized (this) {
            at = end;
            end += block.remaining();
        }
        try {
            long to = at;
            while (block.hasRemaining()) {
                to += file.write(block, to);
            }
        } catch (IOException e) {
            throw failed(shown, what + " can't be kept there", e);
        }
        return at;
    }

    /**
     * Fills the rest of a buffer.
     *
     * @throws PlaceException if there isn't as much
     */
    public void read(long at, ByteBuffer block) {
        try {
            long from = at;
            while (block.hasRemaining()) {
                int read = file.read(block, from);
                if (read < 0) {
                    throw new IOException("it ends too early");
                }
                from += read;
            }
        } catch (IOException e) {
            throw failed(shown, what + " can't be read there again", e);
        }
    }

    /** Has the disk hold what was added. */
    public void force() {
        try {
            file.force(false);
        } catch (IOException e) {
            throw failed(shown, what + " can't be kept there", e);
        }
    }

    @Override
    public void close() {
        try {
            file.close();
        } catch (IOException e) {
            throw failed(shown, "can't be closed", e);
        }
    }
}
