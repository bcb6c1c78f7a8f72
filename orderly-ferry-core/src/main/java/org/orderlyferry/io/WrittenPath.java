package org.orderlyferry.io;

import java.net.URI;
import java.net.URISyntaxException;
import java.nio.file.FileSystemNotFoundException;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.nio.file.spi.FileSystemProvider;
import java.util.Locale;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import org.apiguardian.api.API;

/**
 * How a path is written so that whoever reads it finds the same file: as it is where it stands on this machine, and as a
 * URI (RFC 3986) in any other file system.
 */
@API(status = API.Status.INTERNAL)
public final class WrittenPath {

    // of two letters at least: one alone is a drive
    private static final Pattern SCHEME = Pattern.compile("([A-Za-z][A-Za-z0-9+.-]+)://");
    private static final String FILE = "file";

    private WrittenPath() {}

    /** What a text begins with in front of {@code ://}, in lower case; empty for a plain path. */
    public static Optional<String> scheme(String text) {
        Matcher scheme = SCHEME.matcher(text);
        return scheme.lookingAt() ? Optional.of(scheme.group(1).toLowerCase(Locale.ROOT)) : Optional.empty();
    }

    /** Whether a text with such a scheme is a path in a file system that is at hand. */
    public static boolean isPath(String scheme) {
        return scheme.equals(FILE) || provider(scheme).isPresent();
    }

    /**
     * Reads it.
     *
     * @throws IllegalArgumentException if it is none
     * @throws FileSystemNotFoundException if it is in a file system that isn't at hand
     */
    public static Path read(String text) {
        Optional<String> scheme = scheme(text);
        if (scheme.isEmpty()) {
            return Path.of(text);
        }
        if (scheme.get().equals(FILE)) {
            return Path.of(URI.create(text));
        }
        return provider(scheme.get())
                .orElseThrow(() -> new FileSystemNotFoundException("no file system has the scheme " + scheme.get()))
                .getPath(uri(text));
    }

    /** Also of a text in which a person has left blanks and the like as they are. */
    private static URI uri(String text) {
        try {
            return new URI(text);
        } catch (URISyntaxException e) {
            try {
                int authority = text.indexOf("://") + 3;
                int path = text.indexOf('/', authority);
                return path < 0
                        ? new URI(text.substring(0, authority - 3), text.substring(authority), "/", null, null)
                        : new URI(
                                text.substring(0, authority - 3),
                                text.substring(authority, path),
                                text.substring(path),
                                null,
                                null);
            } catch (URISyntaxException second) {
                throw new IllegalArgumentException(second.getMessage(), second);
            }
        }
    }

    /** Also one that came with the library where that has a class loader of its own, which the JDK doesn't ask. */
    private static Optional<FileSystemProvider> provider(String scheme) {
        return Stream.of(
                        FileSystemProvider.installedProviders().stream(),
                        stream(ServiceLoader.load(FileSystemProvider.class)),
                        stream(ServiceLoader.load(FileSystemProvider.class, WrittenPath.class.getClassLoader())))
                .flatMap(s -> s)
                .filter(p -> p.getScheme().equalsIgnoreCase(scheme))
                .findFirst();
    }

    private static Stream<FileSystemProvider> stream(ServiceLoader<FileSystemProvider> loader) {
        return StreamSupport.stream(loader.spliterator(), false);
    }

    /** Writes it. */
    public static String of(Path path) {
        return path.getFileSystem().equals(FileSystems.getDefault())
                ? path.toString()
                : path.toUri().toString();
    }

    /** A path that is written as it is, or from a folder on; one that begins at the root is on this machine, wherever the folder is. */
    public static Path read(Path folder, String text) {
        return scheme(text).isPresent() || Path.of(text).isAbsolute() ? read(text) : folder.resolve(text);
    }
}
