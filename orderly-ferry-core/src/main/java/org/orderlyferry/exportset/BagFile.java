package org.orderlyferry.exportset;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.util.HexFormat;

/** A new file of a bag: its bytes are counted and its checksum taken in passing, and closing brings it to the disk. */
final class BagFile extends OutputStream {

    private final FileChannel channel;
    private final MessageDigest digest = Bag.newSha256();
    private long bytes;

    BagFile(Path file) throws IOException {
        Files.createDirectories(file.getParent());
        channel = FileChannel.open(file, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
    }

    @Override
    public void write(int b) throws IOException {
        write(new byte[] {(byte) b}, 0, 1);
    }

    @Override
    public void write(byte[] from, int offset, int length) throws IOException {
        ByteBuffer buffer = ByteBuffer.wrap(from, offset, length);
        while (buffer.hasRemaining()) {
            channel.write(buffer);
        }
        digest.update(from, offset, length);
        bytes += length;
    }

    @Override
    public void close() throws IOException {
        if (channel.isOpen()) {
            try (channel) {
                channel.force(true);
            }
        }
    }

    long bytes() {
        return bytes;
    }

    /** The checksum of all that was written, in hexadecimal; to be asked once. */
    String sha256() {
        return HexFormat.of().formatHex(digest.digest());
    }
}
