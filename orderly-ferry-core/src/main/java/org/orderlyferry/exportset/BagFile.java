package org.orderlyferry.exportset;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.HexFormat;
import org.orderlyferry.io.SyncedFile;

/** A new file of a bag: its bytes are counted and its checksum taken in passing, and closing brings it to the disk. */
final class BagFile extends OutputStream {

    private final SyncedFile out;
    private final MessageDigest digest = Bag.newSha256();
    private long bytes;

    BagFile(Path file) throws IOException {
        Files.createDirectories(file.getParent());
        out = new SyncedFile(file);
    }

    @Override
    public void write(int b) throws IOException {
        write(new byte[] {(byte) b}, 0, 1);
    }

    @Override
    public void write(byte[] from, int offset, int length) throws IOException {
        out.write(from, offset, length);
        digest.update(from, offset, length);
        bytes += length;
    }

    @Override
    public void close() throws IOException {
        out.close();
    }

    long bytes() {
        return bytes;
    }

    /** The checksum of all that was written, in hexadecimal; to be asked once. */
    String sha256() {
        return HexFormat.of().formatHex(digest.digest());
    }
}
