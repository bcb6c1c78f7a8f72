package org.orderlyferry.io;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.WritableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import org.apiguardian.api.API;
import org.slf4j.LoggerFactory;

/**
 * A new file whose bytes are on the disk when it is closed: by a sync where its file system has one, and else because
 * that file system closes no file before it keeps it. Not safe for use by several threads at once.
 */
@API(status = API.Status.INTERNAL)
public final class SyncedFile extends OutputStream {

    private final WritableByteChannel channel;

    /**
     * Makes a file.
     *
     * @throws java.nio.file.FileAlreadyExistsException if one of its name is there
     */
    public SyncedFile(Path file) throws IOException {
        channel = Files.newByteChannel(file, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
    }

    /** Lets others see that somebody still writes it, where the file system has locks. */
    void lock() {
        if (channel instanceof FileChannel lockable) {
            try {
                lockable.tryLock();
            } catch (IOException e) {
                LoggerFactory.getLogger(SyncedFile.class).debug("a file can't be locked", e);
            }
        }
    }

    @Override
    public void write(int b) throws IOException {
        write(new byte[] {(byte) b}, 0, 1);
    }

    @Override
    public void write(byte[] bytes, int from, int length) throws IOException {
        ByteBuffer buffer = ByteBuffer.wrap(bytes, from, length);
        while (buffer.hasRemaining()) {
            channel.write(buffer);
        }
    }

    @Override
    public void close() throws IOException {
        if (channel.isOpen()) {
            try (channel) {
                if (channel instanceof FileChannel disk) {
                    disk.force(true);
                }
            }
        }
    }
}
