package org.orderlyferry.exportset;

import java.nio.file.Path;
import java.util.Map;
import java.util.function.BiConsumer;
import org.apiguardian.api.API;

/** What an export set's manifest says of its data files; the files themselves aren't read. */
@API(status = API.Status.INTERNAL)
public final class SetManifest {

    private final Map<String, String> sums;
    private final Map<String, Long> sizes;

    private SetManifest(Bag bag) {
        this.sums = bag.payload();
        this.sizes = bag.listed();
    }

    /**
     * Of a set.
     *
     * @throws org.orderlyferry.problem.BrokenSetException if the folder is none
     */
    public static SetManifest of(Path folder) {
        return new SetManifest(new Bag(folder));
    }

    /** How many files there are. */
    public int files() {
        return sums.size();
    }

    /** Each file's path within the set, and its SHA-256 in hexadecimal. */
    public void each(BiConsumer<String, String> to) {
        sums.forEach(to);
    }

    /** A file's size in bytes; -1 if it isn't there. */
    public long bytes(String path) {
        return sizes.getOrDefault(path, -1L);
    }
}
