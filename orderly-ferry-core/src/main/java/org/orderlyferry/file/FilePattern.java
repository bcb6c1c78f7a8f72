package org.orderlyferry.file;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.model.NamePattern;

/**
 * Files of one table, by a name in which {@code *} stands for any characters: the last part of a path, such
 * as {@code arrivals/loan-*.csv}.
 *
 * @param folder where they stand
 * @param name what they are called
 */
record FilePattern(Path folder, String name) {

    private static final Pattern EDGES = Pattern.compile("^[^\\p{L}\\p{N}]+|[^\\p{L}\\p{N}]+$");

    /** The pattern that a path is, if it is one. */
    static Optional<FilePattern> of(Path path) {
        Path last = path.getFileName();
        boolean pattern = last != null && last.toString().contains("*");
        Path folder = Optional.ofNullable(path.getParent())
                .orElseGet(() -> path.getFileSystem().getPath(""));
        return pattern ? Optional.of(new FilePattern(folder, last.toString())) : Optional.empty();
    }

    /** The files, in order of their names; descriptions beside files, and hidden ones, are none of them. */
    List<Path> files() throws IOException {
        NamePattern wanted = NamePattern.of(name);
        try (Stream<Path> all = Files.list(folder)) {
            return all.filter(Files::isRegularFile)
                    .filter(p -> wanted.matches(p.getFileName().toString()))
                    .filter(p -> !isAside(p.getFileName().toString()))
                    .sorted()
                    .toList();
        }
    }

    /** Whether a name is of a file that holds no records. */
    static boolean isAside(String name) {
        return name.startsWith(".") || name.endsWith("-metadata.json") || name.endsWith(".schema.json");
    }

    /** What the table is called: by what all files' names begin with, or end in, or by their folder. */
    String tableName() {
        String behind = name.substring(name.lastIndexOf('*') + 1);
        int point = behind.indexOf('.');
        String end = point < 0 ? behind : behind.substring(0, point);
        Path absolute = folder.toAbsolutePath().normalize().getFileName();
        return Stream.of(name.substring(0, name.indexOf('*')), end, absolute == null ? "" : absolute.toString())
                .map(n -> EDGES.matcher(n).replaceAll(""))
                .filter(n -> !n.isEmpty())
                .findFirst()
                .orElse("records");
    }

    @Override
    public String toString() {
        return WrittenPath.of(folder.resolve(name));
    }
}
