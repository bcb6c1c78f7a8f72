package org.orderlyferry.file;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.problem.PlaceException;

/**
 * A folder that programs of a cluster have filled: its part files, each by one of them, are one table, by the names that Hadoop,
 * Spark and Hive give them. What begins with a point or an underscore is none of its records.
 *
 * @param parts in order of their names
 */
record PartFolder(Path folder, List<Path> parts) {

    private static final Pattern PART = Pattern.compile("part[-_].*|\\d{6}_\\d+.*");
    private static final String DONE = "_SUCCESS";
    private static final String UNDERWAY = "_temporary";

    /**
     * The part files of a folder, if it is such a one.
     *
     * @throws PlaceException if whoever fills it hasn't come to an end
     */
    static Optional<PartFolder> of(Path folder) throws IOException {
        List<Path> parts;
        try (Stream<Path> all = Files.list(folder)) {
            parts = all.filter(p -> !isHidden(name(p)))
                    .filter(Files::isRegularFile)
                    .filter(p -> !FilePattern.isAside(name(p)))
                    .sorted()
                    .toList();
        }
        boolean done = Files.exists(folder.resolve(DONE));
        boolean byName = !parts.isEmpty()
                && parts.stream().allMatch(p -> PART.matcher(name(p)).matches());
        if (!done && !byName) {
            return Optional.empty();
        }
        if (!done && Files.exists(folder.resolve(UNDERWAY))) {
            throw new PlaceException(
                    WrittenPath.of(folder),
                    "it is still being filled, or was left half filled: there is a folder " + UNDERWAY
                            + ", and no file " + DONE,
                    null);
        }
        return Optional.of(new PartFolder(folder, parts));
    }

    private static String name(Path path) {
        return path.getFileName().toString();
    }

    private static boolean isHidden(String name) {
        return name.startsWith(".") || name.startsWith("_");
    }

    /** The table, called as the folder is, up to a point in its name. */
    FilePlace place(OpenOptions options) throws IOException {
        Path last = folder.toAbsolutePath().normalize().getFileName();
        String name = last == null ? "records" : last.toString();
        int point = name.indexOf('.');
        return OneTable.of(WrittenPath.of(folder), point > 0 ? name.substring(0, point) : name, parts, options);
    }
}
