package org.orderlyferry.testkit.doubles;

import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.orderlyferry.format.FileSource;

/**
 * A file that stands nowhere.
 *
 * @param name its name
 * @param content its bytes
 * @param besides files that stand beside it, by their names
 * @param through what each stream of it passes through
 */
public record BytesSource(String name, byte[] content, Map<String, byte[]> besides, UnaryOperator<InputStream> through)
        implements FileSource {

    /** One that stands alone, and is read as it is. */
    public BytesSource(String name, byte[] content) {
        this(name, content, Map.of(), in -> in);
    }

    /** The same with other bytes. */
    public BytesSource with(byte[] other) {
        return new BytesSource(name, other, besides, through);
    }

    /** The same, whose streams pass through something. */
    public BytesSource through(UnaryOperator<InputStream> other) {
        return new BytesSource(name, content, besides, other);
    }

    @Override
    public String shown() {
        return name;
    }

    @Override
    public InputStream open() {
        return through.apply(new ByteArrayInputStream(content));
    }

    @Override
    public Optional<FileSource> beside(String other) {
        return Optional.ofNullable(besides.get(other)).map(b -> new BytesSource(other, b, Map.of(), through));
    }

    @Override
    public Optional<Path> onDisk() {
        return Optional.empty();
    }

    @Override
    public long bytes() {
        return content.length;
    }
}
