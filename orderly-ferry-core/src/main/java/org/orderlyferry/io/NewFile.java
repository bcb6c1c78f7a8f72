package org.orderlyferry.io;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import org.apiguardian.api.API;
import org.slf4j.LoggerFactory;

/**
 * A file that grows under another name beside its place, and takes that place when it is whole. Not safe for use by
 * several threads at once.
 */
@API(status = API.Status.INTERNAL)
public final class NewFile extends OutputStream {

    private final Path place;
    private final Path growing;
    private final OutputStream out;
    private final FileChannel channel;

    private NewFile(Path place, Path growing, FileChannel channel) {
        this.place = place;
        this.growing = growing;
        this.channel = channel;
        this.out = new OutputStream() {
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
        };
    }

    /** One that never stands anywhere. */
    public NewFile(Path place, OutputStream nowhere) {
        this.place = place;
        this.growing = null;
        this.channel = null;
        this.out = nowhere;
    }

    /** Begins a file; nothing of it stands in its place before {@link #takePlace()}. */
    public static NewFile begin(Path place) throws IOException {
        Path absolute = place.toAbsolutePath().normalize();
        Path folder = absolute.getParent();
        Files.createDirectories(folder);
        // not one of the temporary files that only their owner may read: it becomes the file itself
        for (Path left : DiskNames.leftovers(absolute)) {
            // the lock of one that still grows is held
            if (Files.isRegularFile(left) && !DiskNames.isHeld(left)) {
                Files.deleteIfExists(left);
                LoggerFactory.getLogger(NewFile.class)
                        .info("{} was left by a run that was killed, and is cleared away", left);
            }
        }
        Path growing = DiskNames.growing(absolute);
        FileChannel channel = FileChannel.open(growing, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
        try {
            channel.tryLock();
        } catch (IOException e) {
            // a file system without locks: nobody clears such a file away
            LoggerFactory.getLogger(NewFile.class).debug("{} can't be locked", growing, e);
        }
        return new NewFile(absolute, growing, channel);
    }

    /** Makes a whole file at once. */
    public static void whole(Path place, byte[] content) throws IOException {
        filled(place, file -> file.write(content));
    }

    /** Makes a whole file of another one's bytes. */
    public static void copy(Path from, Path place) throws IOException {
        filled(place, file -> Files.copy(from, file));
    }

    /** Puts bytes into a file. */
    private interface Filling {
        void fill(NewFile file) throws IOException;
    }

    /** Nothing is left of a file that couldn't be filled. */
    private static void filled(Path place, Filling filling) throws IOException {
        NewFile file = begin(place);
        try {
            try (file) {
                filling.fill(file);
            }
            file.takePlace();
        } catch (IOException | RuntimeException e) {
            try {
                file.discard();
            } catch (IOException second) {
                e.addSuppressed(second);
            }
            throw e;
        }
    }

    /** Where it is to stand. */
    public Path place() {
        return place;
    }

    /** Whether it is to stand somewhere at all. */
    public boolean isReal() {
        return channel != null;
    }

    @Override
    public void write(int b) throws IOException {
        out.write(b);
    }

    @Override
    public void write(byte[] bytes, int from, int length) throws IOException {
        out.write(bytes, from, length);
    }

    /** Brings it to the disk; what was written is all there is. */
    @Override
    public void close() throws IOException {
        if (channel != null && channel.isOpen()) {
            try (channel) {
                channel.force(true);
            }
        }
    }

    /** Puts the closed file where it belongs. */
    public void takePlace() throws IOException {
        if (growing != null) {
            Files.move(growing, place, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            DiskNames.sync(place.getParent());
        }
    }

    /** Removes it, if it didn't take its place. */
    public void discard() throws IOException {
        if (growing != null) {
            close();
            Files.deleteIfExists(growing);
        }
    }
}
