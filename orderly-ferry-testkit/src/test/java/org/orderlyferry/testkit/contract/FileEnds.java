package org.orderlyferry.testkit.contract;

import java.nio.file.Path;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.io.Compression;

/** Files of each format below a package and of each compression, each in a folder of its own. */
public final class FileEnds {

    private static final AtomicInteger NUMBER = new AtomicInteger();

    private FileEnds() {}

    /** Those of a module. */
    public static Stream<Ends> of(String module) {
        return FileFormats.all().stream()
                .filter(f -> f.getClass().getPackageName().startsWith(module))
                .flatMap(f -> Stream.of(Compression.values()).map(c -> ends(f, c)));
    }

    private static Ends ends(FileFormat format, Compression compression) {
        String name = "label." + format.endings().get(0) + compression.ending();
        return new Ends(
                format.name() + compression.ending(),
                folder -> fresh(folder).resolve(name).toString(),
                format.holdsSeveralTables(),
                false);
    }

    private static Path fresh(Path folder) {
        return folder.resolve("f" + NUMBER.incrementAndGet());
    }
}
