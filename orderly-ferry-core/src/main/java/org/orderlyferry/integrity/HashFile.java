package org.orderlyferry.integrity;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.StandardOpenOption;
import org.orderlyferry.problem.PlaceException;

/** A temporary file of hashes, 16 bytes each, in blocks. Safe for use by several threads. */
final class HashFile implements AutoCloseable {

    /** Numbers of a hash. */
    static final int WIDTH = 2;

    /** Hashes of a full block. */
    static final int BLOCK = 128;

    private final FileChannel file;
    private long end;

    /** Where hashes stand in it. */
    record Block(long at, int hashes) {}

    HashFile() {
        try {
            file = FileChannel.open(
                    Files.createTempFile("orderly-ferry-keys", null),
                    StandardOpenOption.READ,
                    StandardOpenOption.WRITE,
                    StandardOpenOption.DELETE_ON_CLOSE);
        } catch (IOException e) {
            throw failed("keys can't be kept there", e);
        }
    }

    private static PlaceException failed(String what, IOException e) {
        return new PlaceException("the temporary folder", what + ": " + e.getMessage(), e);
    }

    /** Adds hashes that stand at the beginning of an array. */
    Block add(long[] hashes, int count) {
        ByteBuffer bytes = ByteBuffer.allocate(count * WIDTH * Long.BYTES);
        bytes.asLongBuffer().put(hashes, 0, count * WIDTH);
        long at;
        synchronized (this) {
            at = end;
            end += bytes.remaining();
        }
        try {
            long to = at;
            while (bytes.hasRemaining()) {
                to += file.write(bytes, to);
            }
        } catch (IOException e) {
            throw failed("keys can't be kept there", e);
        }
        return new Block(at, count);
    }

    /** Reads a block again, to the beginning of an array. */
    void read(Block block, long[] hashes) {
        ByteBuffer bytes = ByteBuffer.allocate(block.hashes() * WIDTH * Long.BYTES);
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
            throw failed("keys can't be read there again", e);
        }
        bytes.flip();
        bytes.asLongBuffer().get(hashes, 0, block.hashes() * WIDTH);
    }

    @Override
    public void close() {
        try {
            file.close();
        } catch (IOException e) {
            throw failed("keys can't be taken away there", e);
        }
    }
}
