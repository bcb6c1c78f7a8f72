package org.orderlyferry.integrity;

import java.nio.ByteBuffer;
import org.orderlyferry.io.BlockFile;

/** A temporary file of hashes, 16 bytes each, in blocks. Safe for use by several threads. */
final class HashFile implements AutoCloseable {

    /** Numbers of a hash. */
    static final int WIDTH = 2;

    /** Hashes of a full block. */
    static final int BLOCK = 128;

    private final BlockFile file = BlockFile.temporary("keys");

    /** Where hashes stand in it. */
    record Block(long at, int hashes) {}

    /** Adds hashes that stand at the beginning of an array. */
    Block add(long[] hashes, int count) {
        ByteBuffer bytes = ByteBuffer.allocate(count * WIDTH * Long.BYTES);
        bytes.asLongBuffer().put(hashes, 0, count * WIDTH);
        return new Block(file.add(bytes), count);
    }

    /** Reads a block again, to the beginning of an array. */
    void read(Block block, long[] hashes) {
        ByteBuffer bytes = ByteBuffer.allocate(block.hashes() * WIDTH * Long.BYTES);
        file.read(block.at(), bytes);
        bytes.flip();
        bytes.asLongBuffer().get(hashes, 0, block.hashes() * WIDTH);
    }

    @Override
    public void close() {
        file.close();
    }
}
