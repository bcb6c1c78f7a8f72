package org.orderlyferry.exportset;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/** A folder that grows under another name and takes its place when it is complete. */
final class NewFolder implements AutoCloseable {

    private final Path place;
    private final Path growing;
    private boolean done;

    private NewFolder(Path place, Path growing) {
        this.place = place;
        this.growing = growing;
    }

    static NewFolder begin(Path place, boolean overwrite) {
        Path absolute = place.toAbsolutePath().normalize();
        try {
            if (Files.exists(absolute)) {
                refuseUnlessReplaceable(place, absolute, overwrite);
            }
            Path parent = absolute.getParent();
            if (parent == null) {
                throw new UsageException("an export set can't stand at " + place);
            }
            Files.createDirectories(parent);
            // with the rights that a new folder has, since it becomes the set itself
            Path growing = Files.createDirectory(
                    parent.resolve("." + absolute.getFileName() + ".unfinished-" + UUID.randomUUID()));
            return new NewFolder(absolute, growing);
        } catch (IOException e) {
            throw new PlaceException(place.toString(), "can't be made: " + e.getMessage(), e);
        }
    }

    private static void refuseUnlessReplaceable(Path shown, Path place, boolean overwrite) throws IOException {
        if (!Files.isDirectory(place)) {
            throw new UsageException(shown + " is a file; an export set is a folder");
        }
        boolean empty;
        try (Stream<Path> entries = Files.list(place)) {
            empty = entries.findAny().isEmpty();
        }
        if (empty) {
            return;
        }
        if (!Bag.isBag(place)) {
            throw new UsageException(
                    shown + " is a folder with other things in it; an export set needs one of its own");
        }
        if (!overwrite) {
            throw new UsageException(shown + " holds an export set already; it is kept unless --overwrite is given");
        }
    }

    /** Where it grows. */
    Path growing() {
        return growing;
    }

    Path resolve(String path) {
        Path resolved = growing;
        for (String part : path.split("/")) {
            resolved = resolved.resolve(part);
        }
        return resolved;
    }

    /** Puts the folder where it belongs; the old one, if there is one, goes only then. */
    void takePlace() {
        try {
            syncFolders();
            Path old = null;
            if (Files.exists(place)) {
                old = place.resolveSibling(growing.getFileName().toString().replace(".unfinished-", ".replaced-"));
                Files.move(place, old, StandardCopyOption.ATOMIC_MOVE);
            }
            try {
                Files.move(growing, place, StandardCopyOption.ATOMIC_MOVE);
            } catch (IOException e) {
                if (old != null) {
                    Files.move(old, place, StandardCopyOption.ATOMIC_MOVE);
                }
                throw e;
            }
            done = true;
            if (old != null) {
                delete(old);
            }
        } catch (IOException e) {
            throw new PlaceException(place.toString(), "can't be put in its place: " + e.getMessage(), e);
        }
    }

    /** A rename lasts only when the folders that hold the names are on the disk. Not every file system can be asked. */
    private void syncFolders() {
        try (Stream<Path> folders = Files.walk(growing)) {
            for (Path folder : folders.filter(Files::isDirectory).toList()) {
                try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
                    channel.force(true);
                }
            }
        } catch (IOException e) {
            org.slf4j.LoggerFactory.getLogger(NewFolder.class).debug("folders can't be synced here", e);
        }
    }

    private static void delete(Path folder) throws IOException {
        List<Path> deepestFirst;
        try (Stream<Path> all = Files.walk(folder)) {
            deepestFirst = all.sorted(Comparator.reverseOrder()).toList();
        }
        for (Path path : deepestFirst) {
            Files.deleteIfExists(path);
        }
    }

    @Override
    public void close() {
        if (!done && Files.exists(growing)) {
            try {
                delete(growing);
            } catch (IOException e) {
                throw new PlaceException(
                        growing.toString(),
                        "is unfinished and can't be removed: " + e.getMessage() + "; remove it by hand",
                        e);
            }
        }
    }

    @Override
    public String toString() {
        return place.toString();
    }
}
