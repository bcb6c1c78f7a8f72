package org.orderlyferry.io;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.apiguardian.api.API;
import org.slf4j.LoggerFactory;

/** Names on the disk: those that things have while they grow, and that a name lasts once it is given. */
@API(status = API.Status.INTERNAL)
public final class DiskNames {

    private static final String UNFINISHED = ".unfinished-";
    private static final String REPLACED = ".replaced-";
    private static final String UUID_FORM = "[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}";

    private DiskNames() {}

    /** The name that what is to stand at a place has while it grows. */
    public static Path growing(Path place) {
        return place.resolveSibling("." + place.getFileName() + UNFINISHED + UUID.randomUUID());
    }

    /** The name that what stands at a place gets when something else takes the place. */
    public static Path replaced(Path place) {
        return place.resolveSibling("." + place.getFileName() + REPLACED + UUID.randomUUID());
    }

    /** What earlier runs that were killed have left of something that was to stand at a place; some may still grow. */
    public static List<Path> leftovers(Path place) throws IOException {
        return named(place, UNFINISHED);
    }

    /** What once stood at a place, and was moved aside by runs that could not remove it afterwards. */
    public static List<Path> movedAside(Path place) throws IOException {
        return named(place, REPLACED);
    }

    private static List<Path> named(Path place, String kind) throws IOException {
        Path folder = place.toAbsolutePath().normalize().getParent();
        Pattern name = Pattern.compile(Pattern.quote("." + place.getFileName() + kind) + UUID_FORM);
        List<Path> found = new ArrayList<>();
        if (Files.isDirectory(folder)) {
            try (Stream<Path> all = Files.list(folder)) {
                all.filter(p -> name.matcher(p.getFileName().toString()).matches())
                        .sorted()
                        .forEach(found::add);
            }
        }
        return found;
    }

    /**
     * Whether somebody holds the lock of a file; who is killed lets go of it.
     *
     * @throws UnsupportedOperationException if its file system has no locks
     */
    public static boolean isHeld(Path file) {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE);
                FileLock lock = channel.tryLock()) {
            return lock == null;
        } catch (OverlappingFileLockException e) {
            // by this very process
            return true;
        } catch (IOException e) {
            LoggerFactory.getLogger(DiskNames.class).debug("{} can't be asked for its lock", file, e);
            return true;
        }
    }

    /** Makes a folder's names last: a rename is on the disk only when its folder is. Not every file system can be asked. */
    public static void sync(Path folder) {
        try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
            channel.force(true);
        } catch (IOException | UnsupportedOperationException e) {
            LoggerFactory.getLogger(DiskNames.class).debug("{} can't be synced here", folder, e);
        }
    }
}
