package org.orderlyferry.cluster.hdfs;

import java.io.IOException;
import java.net.URI;
import java.nio.file.InvalidPathException;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.ProviderMismatchException;
import java.nio.file.WatchEvent;
import java.nio.file.WatchKey;
import java.nio.file.WatchService;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;

/**
 * A path, of names between slashes. One that is absolute is shown as the URI that it has. Immutable, but for what the listing
 * that it comes from has told of its file.
 */
final class HdfsPath implements Path {

    /** For how long that is taken for true, as long as whoever walks through a folder needs to ask. */
    private static final long FRESH_NANOS = TimeUnit.SECONDS.toNanos(1);

    private final HdfsFileSystem system;
    private final boolean absolute;
    private final List<String> names;
    private final AtomicReference<@Nullable Listed> listed = new AtomicReference<>();

    private record Listed(HdfsStatus status, long nanos) {}

    HdfsPath(HdfsFileSystem system, boolean absolute, List<String> names) {
        this.system = system;
        this.absolute = absolute;
        this.names = List.copyOf(names);
    }

    /** Reads what stands between slashes; a colon in a name is none that the file system takes. */
    static HdfsPath parse(HdfsFileSystem system, String text) {
        List<String> names = new ArrayList<>();
        for (String name : text.split("/")) {
            if (name.indexOf('\0') >= 0 || name.indexOf(':') >= 0) {
                throw new InvalidPathException(text, "a name in HDFS can have no colon");
            }
            if (!name.isEmpty()) {
                names.add(name);
            }
        }
        return new HdfsPath(system, text.startsWith("/"), names);
    }

    private static HdfsPath of(Path other) {
        if (other instanceof HdfsPath path) {
            return path;
        }
        throw new ProviderMismatchException(other + " isn't in HDFS");
    }

    /** The same, with what a listing has just told of it. */
    HdfsPath listedAs(HdfsStatus status) {
        listed.set(new Listed(status, System.nanoTime()));
        return this;
    }

    /** What a listing has told of it a moment ago; once, since whoever asks again wants to know what has become of it. */
    Optional<HdfsStatus> justListed() {
        return Optional.ofNullable(listed.getAndSet(null))
                .filter(l -> System.nanoTime() - l.nanos() < FRESH_NANOS)
                .map(Listed::status);
    }

    /** The path from the root on, as the file system's own names have it. */
    String inside() {
        return "/" + String.join("/", toAbsolutePath().names);
    }

    @Override
    public HdfsFileSystem getFileSystem() {
        return system;
    }

    @Override
    public boolean isAbsolute() {
        return absolute;
    }

    @Override
    public HdfsPath getRoot() {
        return absolute ? new HdfsPath(system, true, List.of()) : null;
    }

    @Override
    public HdfsPath getFileName() {
        return names.isEmpty() ? null : getName(names.size() - 1);
    }

    @Override
    public HdfsPath getParent() {
        if (names.isEmpty() || names.size() == 1 && !absolute) {
            return null;
        }
        return new HdfsPath(system, absolute, names.subList(0, names.size() - 1));
    }

    @Override
    public int getNameCount() {
        return names.size();
    }

    @Override
    public HdfsPath getName(int index) {
        return subpath(index, index + 1);
    }

    @Override
    public HdfsPath subpath(int from, int to) {
        if (from < 0 || to > names.size() || from >= to) {
            throw new IllegalArgumentException("no names from " + from + " to " + to);
        }
        return new HdfsPath(system, false, names.subList(from, to));
    }

    @Override
    public boolean startsWith(Path other) {
        return other instanceof HdfsPath path
                && path.system.equals(system)
                && path.absolute == absolute
                && path.names.size() <= names.size()
                && names.subList(0, path.names.size()).equals(path.names);
    }

    @Override
    public boolean endsWith(Path other) {
        if (!(other instanceof HdfsPath path) || !path.system.equals(system) || path.names.size() > names.size()) {
            return false;
        }
        return path.absolute
                ? equals(path)
                : names.subList(names.size() - path.names.size(), names.size()).equals(path.names);
    }

    @Override
    public HdfsPath normalize() {
        List<String> kept = new ArrayList<>();
        for (String name : names) {
            boolean up = name.equals("..");
            boolean mayGo = up && !kept.isEmpty() && !kept.get(kept.size() - 1).equals("..");
            if (mayGo) {
                kept.remove(kept.size() - 1);
            } else if (!name.equals(".") && !(up && absolute)) {
                kept.add(name);
            }
        }
        return new HdfsPath(system, absolute, kept);
    }

    @Override
    public HdfsPath resolve(Path other) {
        HdfsPath path = of(other);
        if (path.absolute) {
            return path;
        }
        List<String> all = new ArrayList<>(names);
        all.addAll(path.names);
        return new HdfsPath(system, absolute, all);
    }

    @Override
    public HdfsPath resolve(String other) {
        return resolve(parse(system, other));
    }

    @Override
    public HdfsPath relativize(Path other) {
        HdfsPath path = of(other);
        if (path.absolute != absolute) {
            throw new IllegalArgumentException("one of " + this + " and " + other + " is absolute");
        }
        int common = 0;
        while (common < names.size()
                && common < path.names.size()
                && names.get(common).equals(path.names.get(common))) {
            common++;
        }
        List<String> way = new ArrayList<>();
        for (int i = common; i < names.size(); i++) {
            way.add("..");
        }
        way.addAll(path.names.subList(common, path.names.size()));
        return new HdfsPath(system, false, way);
    }

    @Override
    public URI toUri() {
        return URI.create(HdfsProvider.SCHEME + "://" + system.authority() + Encoded.path(inside()));
    }

    @Override
    public HdfsPath toAbsolutePath() {
        return absolute ? this : new HdfsPath(system, true, names);
    }

    @Override
    public HdfsPath toRealPath(LinkOption... options) throws IOException {
        HdfsPath real = toAbsolutePath().normalize();
        system.client().status(real);
        return real;
    }

    @Override
    public WatchKey register(WatchService watcher, WatchEvent.Kind<?>[] events, WatchEvent.Modifier... modifiers) {
        throw new UnsupportedOperationException("HDFS tells of no changes");
    }

    @Override
    public int compareTo(Path other) {
        return toString().compareTo(other.toString());
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof HdfsPath path
                && path.system.equals(system)
                && path.absolute == absolute
                && path.names.equals(names);
    }

    @Override
    public int hashCode() {
        return Objects.hash(system, absolute, names);
    }

    @Override
    public String toString() {
        return absolute ? toUri().toString() : String.join("/", names);
    }
}
