package org.orderlyferry.reconcile;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.zip.CRC32C;
import org.orderlyferry.problem.PlaceException;

/**
 * A file of digests, some numbers an entry, in blocks that are added by several threads. Where nobody is to go on with it, it
 * is gone with its process, however that ends. Safe for use by several threads.
 */
final class EntryStore implements AutoCloseable {

    /** Entries of a full block. */
    static final int BLOCK = 1024;

    /** Numbers of an entry: the key's digest, the record's, and the key itself where it is a whole number. */
    static final int WIDTH = 5;

    private final boolean kept;
    private final Path path;
    private final FileChannel file;
    private long end;

    private EntryStore(boolean kept, Path path, OpenOption... options) throws IOException {
        this.kept = kept;
        this.path = path;
        this.file = FileChannel.open(path, options);
        this.end = file.size();
    }

    /** One that is gone when it is closed. */
    static EntryStore temporary() {
        try {
            return new EntryStore(
                    false,
                    Files.createTempFile("orderly-ferry-digests", null),
                    StandardOpenOption.READ,
                    StandardOpenOption.WRITE,
                    StandardOpenOption.DELETE_ON_CLOSE);
        } catch (IOException e) {
            throw new PlaceException("the temporary folder", "digests can't be kept there: " + e.getMessage(), e);
        }
    }

    /** One that stays, and may be there already. */
    static EntryStore kept(Path path) {
        try {
            return new EntryStore(
                    true, path, StandardOpenOption.CREATE, StandardOpenOption.READ, StandardOpenOption.WRITE);
        } catch (IOException e) {
            throw new PlaceException(path.toString(), "digests can't be kept there: " + e.getMessage(), e);
        }
    }

    /** Whether it stays when it is closed. */
    boolean isKept() {
        return kept;
    }

    /** Has the disk hold what was added. */
    void force() {
        try {
            file.force(false);
        } catch (IOException e) {
            throw new PlaceException(path.toString(), "digests can't be kept there: " + e.getMessage(), e);
        }
    }

    /** Room for a block. */
    static ByteBuffer block() {
        return ByteBuffer.allocate(BLOCK * WIDTH * Long.BYTES).order(ByteOrder.LITTLE_ENDIAN);
    }

    /**
     * Adds a block, and empties its room.
     *
     * @param entries their numbers, up to its position
     */
    KeptBlocks.Block add(ByteBuffer entries) {
        entries.flip();
        int count = entries.remaining() / (WIDTH * Long.BYTES);
        long at;
        synchronized (this) {
            at = end;
            end += entries.remaining();
        }
        long checksum = kept ? checksum(entries) : 0;
        try {
            long to = at;
            while (entries.hasRemaining()) {
                to += file.write(entries, to);
            }
        } catch (IOException e) {
            throw new PlaceException(path.toString(), "digests can't be kept there: " + e.getMessage(), e);
        }
        entries.clear();
        return new KeptBlocks.Block(at, count, checksum);
    }

    /** By which entries that are kept are known again: CRC-32C (RFC 3720). */
    private static long checksum(ByteBuffer entries) {
        CRC32C checksum = new CRC32C();
        checksum.update(entries.duplicate());
        return checksum.getValue();
    }

    /**
     * Reads a block that another process has added.
     *
     * @return false if the file doesn't hold it any more
     */
    boolean readKept(KeptBlocks.Block block, long[] entries) {
        if (!has(block.at(), block.count())) {
            return false;
        }
        return checksum(bytes(block, entries)) == block.checksum();
    }

    private synchronized boolean has(long at, long count) {
        return at >= 0 && count >= 0 && count <= BLOCK && at <= end - count * WIDTH * Long.BYTES;
    }

    /** Reads a block again. */
    void read(KeptBlocks.Block block, long[] entries) {
        bytes(block, entries);
    }

    private ByteBuffer bytes(KeptBlocks.Block block, long[] entries) {
        ByteBuffer bytes =
                ByteBuffer.allocate(block.count() * WIDTH * Long.BYTES).order(ByteOrder.LITTLE_ENDIAN);
        try {
            long from = block.at();
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
        bytes.asLongBuffer().get(entries, 0, block.count() * WIDTH);
        return bytes;
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
