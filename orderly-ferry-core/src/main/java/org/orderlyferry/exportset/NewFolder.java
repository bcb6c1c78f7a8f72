package org.orderlyferry.exportset;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.orderlyferry.io.Abreast;
import org.orderlyferry.io.DiskNames;
import org.orderlyferry.io.Hold;
import org.orderlyferry.io.Listing;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/** A folder that grows under another name and takes its place when it is complete. */
final class NewFolder implements AutoCloseable {

    /** A file whose lock is held for as long as the folder grows; it is none of the set's. */
    private static final String HOLD = ".growing";

    private static final Duration A_MOMENT = Duration.ofMinutes(10);

    private final Path place;
    private final Path growing;
    private final List<Path> cleared;
    /** Empty for one that somebody else holds, and this joins. */
    private final Optional<Hold> hold;

    private final boolean named;
    private boolean done;
    private Optional<Path> notRemoved = Optional.empty();

    private NewFolder(Path place, Path growing, List<Path> cleared, Optional<Hold> hold, boolean named) {
        this.place = place;
        this.growing = growing;
        this.cleared = cleared;
        this.hold = hold;
        this.named = named;
    }

    private static Optional<Hold> hold(Path growing, String plan) throws IOException {
        Optional<Hold> hold = Hold.take(growing.resolve(HOLD), plan);
        if (hold.isEmpty()) {
            throw new IOException("another process is at work on " + growing);
        }
        return hold;
    }

    /** The folder that was begun for a plan, whether somebody holds it or not. */
    private static Optional<Path> begun(Path place, String plan) throws IOException {
        if (plan.isEmpty()) {
            return Optional.empty();
        }
        for (Path left : DiskNames.leftovers(place)) {
            Path held = left.resolve(HOLD);
            if (Files.isRegularFile(held)
                    && Files.size(held) == plan.length()
                    && Files.readString(held).equals(plan)) {
                return Optional.of(left);
            }
        }
        return Optional.empty();
    }

    /**
     * The folder that was begun for a plan, to write into it beside others, while whoever has begun it waits.
     *
     * @throws UsageException if there is none
     */
    static NewFolder join(Path place, String plan) {
        Path absolute = place.toAbsolutePath().normalize();
        try {
            Path left = begun(absolute, plan)
                    .orElseThrow(() -> new UsageException("no export to " + place + " was begun by this plan"));
            NewFolder joined = new NewFolder(absolute, left, List.of(), Optional.empty(), true);
            joined.done = true;
            return joined;
        } catch (IOException e) {
            throw new PlaceException(place.toString(), "can't be written: " + e.getMessage(), e);
        }
    }

    /** Whether somebody else has begun it, and others write into it at the same time. */
    boolean isJoined() {
        return hold.isEmpty();
    }

    /** Whether a plan's name stands on it, so that another run can go on with it. */
    boolean isNamed() {
        return named;
    }

    /** Lets go of it as it is. */
    void suspend() {
        done = true;
        try {
            letGo();
        } catch (IOException e) {
            throw failed("can't be left", e);
        }
    }

    PlaceException failed(String what, IOException e) {
        return new PlaceException(place.toString(), what + ": " + e.getMessage(), e);
    }

    /** Removes one of its folders, with all that is in it. */
    void remove(String inside) throws IOException {
        if (Files.isDirectory(resolve(inside))) {
            delete(resolve(inside));
        }
    }

    /** Removes all files of one of its folders but some. */
    void dropAllBut(String inside, Set<Path> kept) throws IOException {
        Path from = resolve(inside);
        if (!Files.isDirectory(from)) {
            return;
        }
        List<Path> unwanted = Listing.of(from).files().entrySet().stream()
                .filter(e -> e.getValue().isRegularFile() && !kept.contains(e.getKey()))
                .map(Map.Entry::getKey)
                .toList();
        Abreast.each(unwanted, Files::delete);
    }

    /**
     * Puts right what runs that were killed have left for the same place: a set that had been moved aside, and whose place
     * nothing has taken, stands there again; all else goes.
     *
     * @param wanted one that is gone on with
     */
    private static List<Path> clear(Path place, Optional<Path> wanted) throws IOException {
        List<Path> cleared = new ArrayList<>();
        for (Path aside : DiskNames.movedAside(place)) {
            if (Files.exists(place)) {
                delete(aside);
            } else {
                Files.move(aside, place, StandardCopyOption.ATOMIC_MOVE);
            }
            cleared.add(aside);
        }
        for (Path left : DiskNames.leftovers(place)) {
            if (!wanted.equals(Optional.of(left)) && isAbandoned(left)) {
                delete(left);
                cleared.add(left);
            }
        }
        return cleared;
    }

    /** Nobody holds it; one without the file that is held may have begun, or be about to end, this very moment. */
    private static boolean isAbandoned(Path left) throws IOException {
        Path held = left.resolve(HOLD);
        if (Files.isRegularFile(held)) {
            return !Hold.isHeld(held);
        }
        return Files.getLastModifiedTime(left)
                .toInstant()
                .isBefore(Instant.now().minus(A_MOMENT));
    }

    /** Whether a file is one that is there only while a folder grows. */
    static boolean isHold(Path file) {
        return Hold.isOf(Path.of(HOLD), file);
    }

    /** What was left by runs that were killed, and is gone now. */
    List<Path> cleared() {
        return cleared;
    }

    /**
     * Begins a folder, or goes on with one that was begun.
     *
     * @param plan names what it is made by; one of the same name that nobody holds is gone on with; empty for neither
     */
    static NewFolder begin(Path place, boolean overwrite, String plan) {
        Path absolute = place.toAbsolutePath().normalize();
        try {
            Path parent = absolute.getParent();
            if (parent == null) {
                throw new UsageException("an export set can't stand at " + place);
            }
            Files.createDirectories(parent);
            Optional<Path> left = begun(absolute, plan);
            Optional<Hold> taken = left.isPresent() ? Hold.take(left.get().resolve(HOLD), plan) : Optional.empty();
            List<Path> cleared;
            try {
                cleared = clear(absolute, left.filter(l -> taken.isPresent()));
                if (Files.exists(absolute)) {
                    refuseUnlessReplaceable(place, absolute, overwrite);
                }
            } catch (IOException | RuntimeException e) {
                if (taken.isPresent()) {
                    taken.get().close();
                }
                throw e;
            }
            if (taken.isPresent()) {
                return new NewFolder(absolute, left.get(), cleared, taken, true);
            }
            // with the rights that a new folder has, since it becomes the set itself
            Path growing = Files.createDirectory(DiskNames.growing(absolute));
            try {
                return new NewFolder(absolute, growing, cleared, hold(growing, plan), !plan.isEmpty());
            } catch (IOException e) {
                delete(growing);
                throw e;
            }
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
            release();
            syncFolders();
            Path old = null;
            if (Files.exists(place)) {
                old = DiskNames.replaced(place);
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
            DiskNames.sync(place.getParent());
            remove(old);
        } catch (IOException e) {
            throw new PlaceException(place.toString(), "can't be put in its place: " + e.getMessage(), e);
        }
    }

    /** The new one stands in its place: that the old one can't be removed undoes nothing, and is told. */
    private void remove(Path old) {
        if (old != null) {
            try {
                delete(old);
            } catch (IOException e) {
                org.slf4j.LoggerFactory.getLogger(NewFolder.class).debug("{} can't be removed", old, e);
                notRemoved = Optional.of(old);
            }
        }
    }

    /** What is needed no more, and couldn't be removed. */
    Optional<Path> notRemoved() {
        return notRemoved;
    }

    /** A rename lasts only when the folders that hold the names are on the disk. Not every file system can be asked. */
    private void syncFolders() {
        try {
            Listing.of(growing).folders().forEach(DiskNames::sync);
        } catch (IOException e) {
            org.slf4j.LoggerFactory.getLogger(NewFolder.class).debug("folders can't be synced here", e);
        }
    }

    /** Lets go of it: from now on nothing stands in it but what belongs there. */
    void release() throws IOException {
        if (hold.isPresent()) {
            hold.get().mustBeOurs();
            hold.get().remove();
        }
    }

    private void letGo() throws IOException {
        if (hold.isPresent()) {
            hold.get().close();
        }
    }

    private static void delete(Path folder) throws IOException {
        Listing all = Listing.of(folder);
        Abreast.each(all.files().keySet().stream().filter(f -> !isHold(f)).toList(), Files::deleteIfExists);
        List<Path> deepestFirst = new ArrayList<>(all.folders());
        all.files().keySet().stream().filter(NewFolder::isHold).forEach(deepestFirst::add);
        // what tells that it is abandoned goes last: if anything can't be removed now, the next run does it
        deepestFirst.sort(Comparator.comparing((Path p) -> p.equals(folder))
                .thenComparing(NewFolder::isHold)
                .thenComparing(Comparator.reverseOrder()));
        for (Path path : deepestFirst) {
            Files.deleteIfExists(path);
        }
    }

    private void discard() throws IOException {
        letGo();
        delete(growing);
    }

    /** Removes what is needed no more, since it was packed into a file that stands in its place. */
    void packed() {
        done = true;
        try {
            discard();
        } catch (IOException e) {
            org.slf4j.LoggerFactory.getLogger(NewFolder.class).debug("{} can't be removed", growing, e);
            notRemoved = Optional.of(growing);
        }
    }

    @Override
    public void close() {
        if (!done && Files.exists(growing)) {
            try {
                discard();
            } catch (IOException e) {
                throw new PlaceException(
                        growing.toString(),
                        "is unfinished and can't be removed: " + e.getMessage() + "; the next export here does so",
                        e);
            }
        }
    }

    @Override
    public String toString() {
        return place.toString();
    }
}
