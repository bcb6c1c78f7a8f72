package org.orderlyferry.io;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import org.slf4j.LoggerFactory;

/** By a lock, which goes with the process. */
final class LockHold extends Hold {

    private final FileChannel channel;

    private LockHold(Path file, FileChannel channel) {
        super(file);
        this.channel = channel;
    }

    static Optional<Hold> taken(Path file, String content) throws IOException {
        FileChannel channel =
                FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.READ, StandardOpenOption.WRITE);
        try {
            if (!isLocked(channel)) {
                channel.close();
                return Optional.empty();
            }
            channel.truncate(0);
            channel.write(ByteBuffer.wrap(content.getBytes(StandardCharsets.UTF_8)), 0);
            channel.force(true);
            return Optional.of(new LockHold(file, channel));
        } catch (IOException | RuntimeException e) {
            channel.close();
            throw e;
        }
    }

    private static boolean isLocked(FileChannel channel) {
        try {
            // behind what is written, which others must be able to read
            FileLock lock = channel.tryLock(1L << 40, 1, false);
            return lock != null;
        } catch (OverlappingFileLockException e) {
            return false;
        } catch (IOException e) {
            // a disk without locks, as some shares are: nobody is kept from what nobody could be kept from
            LoggerFactory.getLogger(LockHold.class).debug("a file can't be locked", e);
            return true;
        }
    }

    @Override
    public void mustBeOurs() {
        // a lock can't be taken away
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
