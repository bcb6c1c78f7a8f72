package org.orderlyferry.reconcile;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import org.orderlyferry.problem.PlaceException;

/**
 * A temporary file of digests, some numbers an entry, in blocks that are added by several threads. It is gone with its
 * process, however that ends. Safe for use by several threads.
 */
final class EntryStore implements AutoCloseable {

    /** Entries of a full block. */
    static final int BLOCK = 256;

    /** Numbers of an entry: the key's digest, the record's, and the key itself where it is a whole number. */
    static final int WIDTH = 5;

    private final Path path;
    private final FileChannel file;
    private long end;

    EntryStore() {
        try {
            path = Files.createTempFile("orderly-ferry-digests", null);
            file = FileChannel.open(
                    path, StandardOpenOption.READ, StandardOpenOption.WRITE, StandardOpenOption.DELETE_ON_CLOSE);
        } catch (IOException e) {
            throw new PlaceException("the temporary folder", "digests can't be kept there: " + e.getMessage(), e);
        }
    }

    /**
     * Adds a block.
     *
     * @param count how many entries
     * @return where it is
     */
    long add(long[] entries, int count) {
        ByteBuffer bytes = ByteBuffer.allocate(count * WIDTH * Long.BYTES).order(ByteOrder.nativeOrder());
        bytes.asLongBuffer().put(entries, 0, count * WIDTH);
        long at;
        synchronized (this) {
            at = end;
            end += bytes.capacity();
        }
        try {
            long to = at;
            while (bytes.hasRemaining()) {
                to += file.write(bytes, to);
            }
            return at;
        } catch (IOException e) {
            throw new PlaceException(path.toString(), "digests can't be kept there: " + e.getMessage(), e);
        }
    }

    /** Reads a block again. */
    void read(long at, long[] entries, int count) {
        ByteBuffer bytes = ByteBuffer.allocate(count * WIDTH * Long.BYTES).order(ByteOrder.nativeOrder());
        try {
            long from = at;
            while (bytes.hasRemaining()) {
                int read = file.read(bytes, from);
                if (read < 0) {
                    throw new IOException("it ends too early");
                }
                from += read;
            }
        } catch (IOException e) {
            throw new PlaceException(path.toString(), "digests can't be read there again: " + e.getMessage(), e);
        }
        bytes.flip();
        bytes.asLongBuffer().get(entries, 0, count * WIDTH);
    }

    @Override
    public void close() {
        try {
            file.close();
        } catch (IOException e) {
            throw new PlaceException(path.toString(), "can't be closed: " + e.getMessage(), e);
        }
    }
}
