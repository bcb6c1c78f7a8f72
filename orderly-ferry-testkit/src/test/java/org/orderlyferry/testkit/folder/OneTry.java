package org.orderlyferry.testkit.folder;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/**
 * A folder for one try of a property, gone with all that is in it when that ends. A folder of its own, since what looks for
 * a smaller sample that fails may still go on when the next one is tried.
 *
 * @param path where it is
 */
public record OneTry(Path path) implements AutoCloseable {

    public static OneTry begin() throws IOException {
        return new OneTry(Files.createTempDirectory("one-try"));
    }

    @Override
    public void close() throws IOException {
        List<Path> all;
        try (Stream<Path> files = Files.walk(path)) {
            all = files.sorted(Comparator.reverseOrder()).toList();
        }
        for (Path one : all) {
            Files.delete(one);
        }
    }
}
