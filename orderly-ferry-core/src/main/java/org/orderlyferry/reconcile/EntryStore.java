package org.orderlyferry.reconcile;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.zip.CRC32C;
import org.orderlyferry.io.BlockFile;

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
    private final BlockFile file;

    private EntryStore(boolean kept, BlockFile file) {
        this.kept = kept;
        this.file = file;
    }

    /** One that is gone when it is closed. */
    static EntryStore temporary() {
        return new EntryStore(false, BlockFile.temporary("digests"));
    }

    /** One that stays, and may be there already. */
    static EntryStore kept(Path path) {
        return new EntryStore(true, BlockFile.kept(path, "digests"));
    }

    /** Whether it stays when it is closed. */
    boolean isKept() {
        return kept;
    }

    /** Has the disk hold what was added. */
    void force() {
        file.force();
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
        long checksum = kept ? checksum(entries) : 0;
        long at = file.add(entries);
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

    private boolean has(long at, long count) {
        return at >= 0 && count >= 0 && count <= BLOCK && at <= file.size() - count * WIDTH * Long.BYTES;
    }

    /** Reads a block again. */
    void read(KeptBlocks.Block block, long[] entries) {
        bytes(block, entries);
    }

    private ByteBuffer bytes(KeptBlocks.Block block, long[] entries) {
        ByteBuffer bytes =
                ByteBuffer.allocate(block.count() * WIDTH * Long.BYTES).order(ByteOrder.LITTLE_ENDIAN);
        file.read(block.at(), bytes);
        bytes.flip();
        bytes.asLongBuffer().get(entries, 0, block.count() * WIDTH);
        return bytes;
    }

    @Override
    public void close() {
        file.close();
    }
}
