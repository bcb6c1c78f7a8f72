package org.orderlyferry.testkit.servers;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import org.slf4j.LoggerFactory;

/**
 * Where servers of tests keep their data. They make and remove very many small files, which takes some disks longer than
 * the servers' own work; so they do it in memory where a machine has plenty, and else among the temporary files.
 */
final class DataFolder {

    private static final Path MEMORY = Path.of("/dev/shm");
    private static final Path FREE = Path.of("/proc/meminfo");
    /** More than twice what the tests of two processes fill at once. */
    private static final long PLENTY = 12L << 30;

    private static final String NAME = "ferry-data-";

    private DataFolder() {}

    /** A new one, that is to be {@linkplain #remove removed}. */
    static Path fresh() throws IOException {
        boolean inMemory = isPlenty();
        if (inMemory) {
            removeThoseOfTheDead();
        }
        Path folder = inMemory ? MEMORY : Path.of(System.getProperty("java.io.tmpdir"));
        return Files.createTempDirectory(folder, NAME + ProcessHandle.current().pid() + "-");
    }

    private static boolean isPlenty() throws IOException {
        return Files.isDirectory(MEMORY)
                && Files.isWritable(MEMORY)
                && Files.getFileStore(MEMORY).getUsableSpace() >= PLENTY
                && Files.isReadable(FREE)
                && available() >= PLENTY;
    }

    private static long available() throws IOException {
        return Files.readAllLines(FREE).stream()
                .filter(line -> line.startsWith("MemAvailable:"))
                .mapToLong(line -> Long.parseLong(line.replaceAll("\\D", "")) << 10)
                .findFirst()
                .orElse(0);
    }

    /** What tests left that were killed would fill the memory; what can't be removed is another user's, or is being removed. */
    private static void removeThoseOfTheDead() throws IOException {
        List<Path> left;
        try (Stream<Path> all = Files.list(MEMORY)) {
            left = all.filter(p -> p.getFileName().toString().matches(NAME + "\\d+-\\d+"))
                    .filter(p -> ProcessHandle.of(
                                    Long.parseLong(p.getFileName().toString().split("-")[2]))
                            .isEmpty())
                    .toList();
        }
        for (Path folder : left) {
            try {
                remove(folder);
            } catch (IOException | UncheckedIOException e) {
                LoggerFactory.getLogger(DataFolder.class).debug("{} can't be removed", folder, e);
            }
        }
    }

    /** Removes one with all that is in it; what is gone already, is. */
    static void remove(Path folder) throws IOException {
        if (!Files.isDirectory(folder)) {
            return;
        }
        List<Path> deepestFirst;
        try (Stream<Path> all = Files.walk(folder)) {
            deepestFirst = all.sorted(Comparator.reverseOrder()).toList();
        }
        for (Path path : deepestFirst) {
            Files.deleteIfExists(path);
        }
    }
}
