package org.orderlyferry.io;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.time.Instant;
import org.apiguardian.api.API;
import org.slf4j.LoggerFactory;

/**
 * A file that grows under another name beside its place, and takes that place when it is whole. Not safe for use by
 * several threads at once.
 */
@API(status = API.Status.INTERNAL)
public final class NewFile extends OutputStream {

    private static final Duration LONGEST = Duration.ofDays(2);

    private final Path place;
    /** Null where it is to stand nowhere. */
    private final Path growing;

    private final OutputStream out;

    private NewFile(Path place, Path growing, OutputStream out) {
        this.place = place;
        this.growing = growing;
        this.out = out;
    }

    /** One that never stands anywhere. */
    public NewFile(Path place, OutputStream nowhere) {
        this(place, null, nowhere);
    }

    /** Begins a file; nothing of it stands in its place before {@link #takePlace()}. */
    public static NewFile begin(Path place) throws IOException {
        Path absolute = place.toAbsolutePath().normalize();
        Path folder = absolute.getParent();
        Files.createDirectories(folder);
        // not one of the temporary files that only their owner may read: it becomes the file itself
        for (Path left : DiskNames.leftovers(absolute)) {
            // the lock of one that still grows is held
            if (Files.isRegularFile(left) && isAbandoned(left)) {
                Files.deleteIfExists(left);
                LoggerFactory.getLogger(NewFile.class)
                        .info("{} was left by a run that was killed, and is cleared away", left);
            }
        }
        Path growing = DiskNames.growing(absolute);
        SyncedFile file = new SyncedFile(growing);
        file.lock();
        return new NewFile(absolute, growing, file);
    }

    /** Where a file system has no locks, nobody writes one file for so long. */
    private static boolean isAbandoned(Path left) throws IOException {
        try {
            return !DiskNames.isHeld(left);
        } catch (UnsupportedOperationException e) {
            return Files.getLastModifiedTime(left)
                    .toInstant()
                    .isBefore(Instant.now().minus(LONGEST));
        }
    }

    /** Makes a whole file at once. */
    public static void whole(Path place, byte[] content) throws IOException {
        filled(place, file -> file.write(content));
    }

    /**
     * Makes a whole file at once, in a folder that may have very many and is removed with all that was left in it: nobody looks for
     * what others have left there.
     */
    public static void among(Path place, byte[] content) throws IOException {
        Path growing = DiskNames.growing(place);
        try {
            written(growing, content);
            Files.move(growing, place, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            DiskNames.sync(place.getParent());
        } catch (IOException | RuntimeException e) {
            try {
                Files.deleteIfExists(growing);
            } catch (IOException second) {
                e.addSuppressed(second);
            }
            throw e;
        }
    }

    private static void written(Path growing, byte[] content) throws IOException {
        try (SyncedFile file = new SyncedFile(growing)) {
            file.write(content);
        }
    }

    /**
     * Makes a whole file at once, unless one is there: of several processes that do so at the same time, one does.
     *
     * @return false if one is there
     */
    public static boolean first(Path place, byte[] content) throws IOException {
        if (Files.exists(place)) {
            return false;
        }
        Path growing = DiskNames.growing(place);
        try {
            written(growing, content);
            // a rename would replace what is there, which a second name can't
            Files.createLink(place, growing);
            DiskNames.sync(place.getParent());
            return true;
        } catch (UnsupportedOperationException e) {
            // and where there are no second names, a rename doesn't
            return isRenamed(growing, place);
        } catch (FileAlreadyExistsException e) {
            return false;
        } finally {
            Files.deleteIfExists(growing);
        }
    }

    private static boolean isRenamed(Path from, Path to) throws IOException {
        try {
            Files.move(from, to);
            return true;
        } catch (FileAlreadyExistsException e) {
            return false;
        }
    }

    /** Makes a whole file of another one's bytes. */
    public static void copy(Path from, Path place) throws IOException {
        filled(place, file -> Files.copy(from, file));
    }

    /** Puts bytes into a file. */
    @FunctionalInterface
    public interface Filling {
        /** Does it; the file is closed by who asked. */
        void fill(NewFile file) throws IOException;
    }

    /** Makes a whole file; nothing is left of one that couldn't be filled. */
    public static void filled(Path place, Filling filling) throws IOException {
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
        return growing != null;
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
        out.close();
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
