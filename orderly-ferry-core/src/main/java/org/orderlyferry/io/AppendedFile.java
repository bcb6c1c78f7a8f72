package org.orderlyferry.io;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import org.apiguardian.api.API;

/**
 * A file that is only ever added to; what was added is on the disk when that returns. In a file system whose files can't be
 * held open for writing at any place, each addition opens it anew. Not safe for use by several threads at once.
 */
@API(status = API.Status.INTERNAL)
public final class AppendedFile implements AutoCloseable {

    private final Path file;
    /** Null where the file system has no such channels. */
    private final FileChannel channel;

    private AppendedFile(Path file, FileChannel channel) {
        this.file = file;
        this.channel = channel;
    }

    /** Opens a file, or makes it. */
    public static AppendedFile open(Path file) throws IOException {
        try {
            return new AppendedFile(file, FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.WRITE));
        } catch (UnsupportedOperationException e) {
            if (!Files.exists(file)) {
                Files.write(file, new byte[0], StandardOpenOption.CREATE_NEW);
            }
            return new AppendedFile(file, null);
        }
    }

    /** Whether nobody else adds to it, as far as the file system has locks; it is locked from then on. */
    public boolean isAlone() throws IOException {
        try {
            return channel == null || channel.tryLock() != null;
        } catch (OverlappingFileLockException e) {
            return false;
        }
    }

    /** Keeps its first bytes, and goes on behind them. */
    public void keep(long bytes) throws IOException {
        if (channel != null) {
            channel.truncate(bytes);
            channel.position(bytes);
            channel.force(true);
        } else if (Files.size(file) != bytes) {
            NewFile.whole(file, Arrays.copyOf(Files.readAllBytes(file), Math.toIntExact(bytes)));
        }
    }

    /** Adds bytes that last. */
    public void add(byte[] bytes) throws IOException {
        addLoosely(bytes);
        if (channel != null) {
            channel.force(true);
        }
    }

    /** Adds bytes that may be lost if the machine stops. */
    public void addLoosely(byte[] bytes) throws IOException {
        if (channel == null) {
            try (OutputStream out = Files.newOutputStream(file, StandardOpenOption.APPEND)) {
                out.write(bytes);
            }
            return;
        }
        ByteBuffer left = ByteBuffer.wrap(bytes);
        while (left.hasRemaining()) {
            channel.write(left);
        }
    }

    @Override
    public void close() throws IOException {
        if (channel != null) {
            channel.close();
        }
    }
}
