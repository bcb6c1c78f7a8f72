package org.orderlyferry.crossing;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;
import org.orderlyferry.problem.PlaceException;

/** Removes a folder of a run's with all that is in it. */
final class FolderRemoval {

    private FolderRemoval() {}

    static void remove(Path folder) {
        if (!Files.exists(folder)) {
            return;
        }
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(path);
            }
        } catch (IOException e) {
            throw new PlaceException(folder.toString(), "can't be removed: " + e.getMessage(), e);
        }
    }
}
