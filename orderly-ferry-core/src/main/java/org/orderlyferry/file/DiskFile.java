package org.orderlyferry.file;

import com.dynatrace.hash4j.hashing.HashStream128;
import com.dynatrace.hash4j.hashing.Hashing;
import com.github.luben.zstd.ZstdInputStream;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.io.BoundedExpansion;
import org.orderlyferry.io.WrittenPath;

/** A file on the disk, as it is or compressed with gzip or Zstandard: its first bytes tell, not its name. */
final class DiskFile implements FileSource {

    private static final int BUFFER = 64 * 1024;
    private static final int GZIP = 0x1F8B;
    private static final int ZSTD = 0x28B5;

    private final Path path;
    private final int magic;
    private final BasicFileAttributes then;

    private DiskFile(Path path, int magic) throws IOException {
        this.then = Files.readAttributes(path, BasicFileAttributes.class);
        this.path = path;
        this.magic = magic;
    }

    static DiskFile of(Path path) throws IOException {
        try (InputStream in = Files.newInputStream(path)) {
            byte[] first = in.readNBytes(2);
            return new DiskFile(path, first.length < 2 ? 0 : (first[0] & 0xFF) << 8 | first[1] & 0xFF);
        }
    }

    private boolean isCompressed() {
        return magic == GZIP || magic == ZSTD;
    }

    @Override
    public String shown() {
        return WrittenPath.of(path);
    }

    @Override
    public String name() {
        String name = path.getFileName().toString();
        String lower = name.toLowerCase(Locale.ROOT);
        for (String ending : new String[] {".gz", ".gzip", ".zst", ".zstd"}) {
            if (isCompressed() && lower.endsWith(ending)) {
                return name.substring(0, name.length() - ending.length());
            }
        }
        return name;
    }

    @Override
    public InputStream open() throws IOException {
        InputStream in = Files.newInputStream(path);
        try {
            return switch (magic) {
                case GZIP -> new BoundedExpansion(in, counted -> new GZIPInputStream(counted, BUFFER), shown());
                case ZSTD ->
                    new BoundedExpansion(
                            in, counted -> new ZstdInputStream(new BufferedInputStream(counted, BUFFER)), shown());
                default -> in;
            };
        } catch (IOException | RuntimeException e) {
            in.close();
            throw e;
        }
    }

    @Override
    public Optional<FileSource> beside(String name) {
        Path other = path.resolveSibling(name);
        try {
            return Files.isRegularFile(other) ? Optional.of(of(other)) : Optional.empty();
        } catch (IOException e) {
            throw new org.orderlyferry.problem.PlaceException(other.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    @Override
    public Optional<Path> onDisk() {
        return seekable().filter(p -> p.getFileSystem().equals(FileSystems.getDefault()));
    }

    @Override
    public Optional<Path> seekable() {
        return isCompressed() ? Optional.empty() : Optional.of(path);
    }

    @Override
    public boolean isChanged() {
        try {
            BasicFileAttributes now = Files.readAttributes(path, BasicFileAttributes.class);
            return now.size() != then.size()
                    || !now.lastModifiedTime().equals(then.lastModifiedTime())
                    || !Objects.equals(now.fileKey(), then.fileKey());
        } catch (IOException e) {
            return true;
        }
    }

    /** A checksum of its bytes as they stand, compressed or not. */
    @Override
    public Optional<String> state() throws IOException {
        HashStream128 hash = Hashing.xxh3_128().hashStream();
        byte[] buffer = new byte[BUFFER];
        try (InputStream in = Files.newInputStream(path)) {
            for (int count = in.read(buffer); count >= 0; count = in.read(buffer)) {
                hash.putBytes(buffer, 0, count);
            }
        }
        return Optional.of(hash.get().toString());
    }

    @Override
    public long bytes() {
        try {
            return Files.size(path);
        } catch (IOException e) {
            return -1;
        }
    }
}
