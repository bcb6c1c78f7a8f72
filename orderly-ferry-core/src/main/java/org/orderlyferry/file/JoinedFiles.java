package org.orderlyferry.file;

import com.dynatrace.hash4j.hashing.HashStream128;
import com.dynatrace.hash4j.hashing.Hashing;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.ForwardingSource;

/**
 * Several files of one table, as one: what stands beside the first stands beside all. Its bytes are those of the first, of
 * which formats find out what the others are like.
 *
 * @param shown how a person named them
 * @param baseName what the table is called
 * @param parts at least one
 */
record JoinedFiles(String shown, String baseName, List<FileSource> parts) implements FileSource {

    JoinedFiles {
        parts = List.copyOf(parts);
    }

    /** One of them, which goes by the name of all. */
    private static final class Part extends ForwardingSource {

        private final FileSource all;

        Part(FileSource file, FileSource all) {
            super(file);
            this.all = all;
        }

        @Override
        public String name() {
            return all.name();
        }

        @Override
        public Optional<FileSource> beside(String name) {
            return all.beside(name);
        }
    }

    /**
     * The files, each by the name of all.
     *
     * @param all this, or what stands for it
     */
    List<FileSource> parts(FileSource all) {
        return parts.stream().map(p -> (FileSource) new Part(p, all)).toList();
    }

    @Override
    public String name() {
        return baseName + "." + parts.get(0).ending();
    }

    @Override
    public InputStream open() throws IOException {
        return parts.get(0).open();
    }

    @Override
    public Optional<FileSource> beside(String name) {
        return parts.get(0).beside(name);
    }

    @Override
    public Optional<Path> onDisk() {
        return Optional.empty();
    }

    @Override
    public long bytes() {
        long sum = 0;
        for (FileSource part : parts) {
            if (part.bytes() < 0) {
                return -1;
            }
            sum += part.bytes();
        }
        return sum;
    }

    @Override
    public int files() {
        return parts.size();
    }

    @Override
    public boolean isChanged() {
        return parts.stream().anyMatch(FileSource::isChanged);
    }

    @Override
    public Optional<String> state() throws IOException {
        HashStream128 hash = Hashing.xxh3_128().hashStream();
        for (FileSource part : parts) {
            Optional<String> state = part.state();
            if (state.isEmpty()) {
                return state;
            }
            hash.putByteArray((part.name() + " " + state.get()).getBytes(StandardCharsets.UTF_8));
        }
        return Optional.of(hash.get().toString());
    }
}
