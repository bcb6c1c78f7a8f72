package org.orderlyferry.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;

/** Folders with all that is in them. */
final class Trees {

    private Trees() {}

    /** Something that is done in a folder. */
    @FunctionalInterface
    interface Work {
        void in(Path folder) throws Exception;
    }

    /** Does it in a temporary folder, which is removed behind it. */
    static void temporary(String prefix, Work work) throws Exception {
        Path folder = Files.createTempDirectory(prefix);
        try {
            work.in(folder);
        } finally {
            remove(folder);
        }
    }

    /** Removes one, if it is there. */
    static void remove(Path folder) throws IOException {
        if (!Files.exists(folder)) {
            return;
        }
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(path);
            }
        }
    }
}
