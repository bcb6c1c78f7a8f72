package org.orderlyferry.io;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import org.apiguardian.api.API;

/**
 * Says of something that stands on a disk that a process works on it, by a file: others see it for as long as the process
 * lives, however that ends. By the file's lock where the file system has locks, and else by {@linkplain BeatHold beats}.
 */
@API(status = API.Status.INTERNAL)
public abstract sealed class Hold implements AutoCloseable permits LockHold, BeatHold {

    final Path file;

    Hold(Path file) {
        this.file = file;
    }

    /**
     * Takes hold of what a file stands for, and makes the file where it isn't there.
     *
     * @param content what the file is to say from then on
     * @return empty if another process has it, or takes it at this moment
     */
    public static Optional<Hold> take(Path file, String content) throws IOException {
        return take(file, content, () -> {});
    }

    /**
     * The same.
     *
     * @param waits told before it is waited for some seconds to see whether another process still has it, which is only done
     *     where there are no locks
     */
    public static Optional<Hold> take(Path file, String content, Runnable waits) throws IOException {
        return hasLocks(file) ? LockHold.taken(file, content) : BeatHold.taken(file, content, waits);
    }

    /** Whether a process has hold of it; where there are no locks, asking this takes some seconds if none has. */
    public static boolean isHeld(Path file) throws IOException {
        return hasLocks(file) ? DiskNames.isHeld(file) : BeatHold.isAlive(file);
    }

    /** Whether a name is one of the files by which something is held. */
    public static boolean isOf(Path held, Path other) {
        String name = String.valueOf(other.getFileName());
        String own = String.valueOf(held.getFileName());
        return name.equals(own) || name.startsWith(own + BeatHold.BY);
    }

    private static boolean hasLocks(Path file) throws IOException {
        try (FileChannel channel = FileChannel.open(file.resolveSibling(".none"), StandardOpenOption.READ)) {
            return channel.isOpen();
        } catch (UnsupportedOperationException e) {
            return false;
        } catch (java.nio.file.NoSuchFileException e) {
            return true;
        }
    }

    /**
     * To be asked before something is done that only who has hold of it may do.
     *
     * @throws IOException if another process has taken it over, as it may where this one didn't answer for long
     */
    public abstract void mustBeOurs() throws IOException;

    /** Removes the files by which it is held: there is nothing to hold any more. */
    public void remove() throws IOException {
        close();
        Files.deleteIfExists(file);
    }

    /** Lets go of it; the file stays. */
    @Override
    public abstract void close() throws IOException;
}
