package org.orderlyferry.cluster.hdfs;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.URI;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.AccessMode;
import java.nio.file.CopyOption;
import java.nio.file.DirectoryStream;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileStore;
import java.nio.file.FileSystem;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.NotDirectoryException;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.ProviderMismatchException;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributeView;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.FileAttributeView;
import java.nio.file.attribute.FileTime;
import java.nio.file.spi.FileSystemProvider;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentMap;
import org.jspecify.annotations.Nullable;

/**
 * Makes paths in HDFS some of Java's own: {@code hdfs://user@host:9870/path}, by WebHDFS; without a port it is 9870; of
 * several name nodes between commas the one that answers is asked. Found by {@link java.util.ServiceLoader}.
 */
public final class HdfsProvider extends FileSystemProvider {

    static final String SCHEME = "hdfs";

    /** Of all of this class: each loader makes a provider of its own. */
    private static final ConcurrentMap<String, HdfsFileSystem> SYSTEMS = new ConcurrentHashMap<>();

    private static HdfsPath path(Path path) {
        if (path instanceof HdfsPath inside) {
            return inside;
        }
        throw new ProviderMismatchException(path + " isn't in HDFS");
    }

    private static WebHdfs client(HdfsPath path) {
        return path.getFileSystem().client();
    }

    @Override
    public String getScheme() {
        return SCHEME;
    }

    @Override
    public FileSystem newFileSystem(URI uri, Map<String, ?> settings) {
        return getFileSystem(uri);
    }

    @Override
    public HdfsFileSystem getFileSystem(URI uri) {
        return SYSTEMS.computeIfAbsent(String.valueOf(uri.getRawAuthority()), a -> HdfsFileSystem.of(this, uri));
    }

    @Override
    public Path getPath(URI uri) {
        String path = uri.getPath();
        return getFileSystem(uri).getPath(path == null || path.isEmpty() ? "/" : path);
    }

    @Override
    public SeekableByteChannel newByteChannel(
            Path file, Set<? extends OpenOption> options, FileAttribute<?>... attributes) throws IOException {
        HdfsPath path = path(file);
        boolean append = options.contains(StandardOpenOption.APPEND);
        if (!append && !options.contains(StandardOpenOption.WRITE)) {
            return new HdfsInput(client(path), path);
        }
        if (options.contains(StandardOpenOption.READ)) {
            throw new UnsupportedOperationException("a file in HDFS is read or written, not both");
        }
        if (append) {
            return appending(path, options);
        }
        boolean isNew = options.contains(StandardOpenOption.CREATE_NEW);
        boolean mayMake = isNew || options.contains(StandardOpenOption.CREATE);
        boolean isThere = client(path).exists(path);
        if (isThere && isNew) {
            throw new FileAlreadyExistsException(path.toString());
        }
        if (!isThere && !mayMake) {
            throw new NoSuchFileException(path.toString());
        }
        if (isThere && !options.contains(StandardOpenOption.TRUNCATE_EXISTING)) {
            throw new UnsupportedOperationException("bytes of a file in HDFS aren't written over");
        }
        return HdfsOutput.create(client(path), path, isThere);
    }

    private static SeekableByteChannel appending(HdfsPath path, Set<? extends OpenOption> options) throws IOException {
        if (client(path).exists(path)) {
            return HdfsOutput.append(client(path), path);
        }
        if (!options.contains(StandardOpenOption.CREATE)) {
            throw new NoSuchFileException(path.toString());
        }
        return HdfsOutput.create(client(path), path, false);
    }

    @Override
    public DirectoryStream<Path> newDirectoryStream(Path folder, DirectoryStream.Filter<? super Path> filter)
            throws IOException {
        HdfsPath path = path(folder);
        if (!client(path).status(path).isDirectory()) {
            throw new NotDirectoryException(path.toString());
        }
        return new HdfsEntries(client(path), path, filter);
    }

    @Override
    public void createDirectory(Path folder, FileAttribute<?>... attributes) throws IOException {
        HdfsPath path = path(folder);
        if (client(path).exists(path)) {
            throw new FileAlreadyExistsException(path.toString());
        }
        client(path).makeFolders(path);
    }

    @Override
    public void delete(Path file) throws IOException {
        client(path(file)).delete(path(file));
    }

    @Override
    public void copy(Path from, Path to, CopyOption... options) throws IOException {
        boolean replacing = List.of(options).contains(StandardCopyOption.REPLACE_EXISTING);
        if (Files.isDirectory(from)) {
            createDirectory(to);
            return;
        }
        OpenOption[] how = replacing
                ? new OpenOption[] {
                    StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE
                }
                : new OpenOption[] {StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE};
        try (InputStream in = Files.newInputStream(from);
                OutputStream out = Files.newOutputStream(to, how)) {
            in.transferTo(out);
        }
    }

    @Override
    public void move(Path from, Path to, CopyOption... options) throws IOException {
        HdfsPath source = path(from);
        HdfsPath target = path(to);
        if (!source.getFileSystem().equals(target.getFileSystem())) {
            throw new ProviderMismatchException("nothing is moved from one cluster to another");
        }
        client(source).rename(source, target, Arrays.asList(options).contains(StandardCopyOption.REPLACE_EXISTING));
    }

    @Override
    public boolean isSameFile(Path one, Path other) {
        return one.toAbsolutePath().normalize().equals(other.toAbsolutePath().normalize());
    }

    /** What begins with a point, and what Hadoop's programs leave beside their results. */
    @Override
    public boolean isHidden(Path file) {
        Path name = file.getFileName();
        return name != null
                && (name.toString().startsWith(".") || name.toString().startsWith("_"));
    }

    @Override
    public FileStore getFileStore(Path file) {
        return new HdfsStore(path(file).getFileSystem());
    }

    @Override
    public void checkAccess(Path file, AccessMode... modes) throws IOException {
        HdfsPath path = path(file);
        client(path).status(path);
        for (AccessMode mode : modes) {
            client(path)
                    .mayBe(
                            path,
                            switch (mode) {
                                case READ -> "r--";
                                case WRITE -> "-w-";
                                case EXECUTE -> "--x";
                            });
        }
    }

    @Override
    public <V extends FileAttributeView> @Nullable V getFileAttributeView(
            Path file, Class<V> type, LinkOption... options) {
        return type == BasicFileAttributeView.class ? type.cast(new View(path(file))) : null;
    }

    /** What is told of a file, and its time, which can be set. */
    private record View(HdfsPath path) implements BasicFileAttributeView {
        @Override
        public String name() {
            return "basic";
        }

        @Override
        public BasicFileAttributes readAttributes() throws IOException {
            return client(path).status(path);
        }

        @Override
        public void setTimes(@Nullable FileTime modified, @Nullable FileTime accessed, @Nullable FileTime created)
                throws IOException {
            if (modified != null) {
                client(path).setTimes(path, modified.toMillis());
            }
        }
    }

    @Override
    public <A extends BasicFileAttributes> A readAttributes(Path file, Class<A> type, LinkOption... options)
            throws IOException {
        if (type != BasicFileAttributes.class) {
            throw new UnsupportedOperationException("HDFS has no " + type.getSimpleName());
        }
        Optional<HdfsStatus> listed = path(file).justListed();
        return type.cast(listed.isPresent() ? listed.get() : client(path(file)).status(path(file)));
    }

    @Override
    public Map<String, Object> readAttributes(Path file, String attributes, LinkOption... options) throws IOException {
        HdfsStatus status = client(path(file)).status(path(file));
        return Map.of(
                "size", status.size(),
                "isDirectory", status.isDirectory(),
                "isRegularFile", status.isRegularFile(),
                "lastModifiedTime", status.lastModifiedTime());
    }

    @Override
    public void setAttribute(Path file, String attribute, Object value, LinkOption... options) throws IOException {
        if (!attribute.endsWith("lastModifiedTime")) {
            throw new UnsupportedOperationException("HDFS has no attribute " + attribute + " to be set");
        }
        client(path(file)).setTimes(path(file), ((FileTime) value).toMillis());
    }
}
