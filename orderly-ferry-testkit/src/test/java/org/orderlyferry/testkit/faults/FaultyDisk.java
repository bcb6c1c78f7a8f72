package org.orderlyferry.testkit.faults;

import java.io.IOException;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.net.URI;
import java.nio.channels.FileChannel;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.AccessMode;
import java.nio.file.CopyOption;
import java.nio.file.DirectoryStream;
import java.nio.file.FileStore;
import java.nio.file.FileSystem;
import java.nio.file.LinkOption;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.nio.file.WatchService;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.FileAttributeView;
import java.nio.file.attribute.UserPrincipalLookupService;
import java.nio.file.spi.FileSystemProvider;
import java.util.Iterator;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;

/**
 * A disk of which the n-th call fails that writes, syncs, closes, renames, makes or deletes: a real folder, whose paths pass
 * through faults. Safe for use by several threads.
 */
public final class FaultyDisk {

    private final FileSystem real;
    private final FileSystem system = new System();
    private final FileSystemProvider provider = new Provider();
    private final int fatal;
    private final AtomicInteger calls = new AtomicInteger();
    private volatile String struck = "";

    /**
     * A fault.
     *
     * @param real the file system that does what is asked
     * @param fatal which call fails, from 1; 0 for none
     */
    public FaultyDisk(FileSystem real, int fatal) {
        this.real = real;
        this.fatal = fatal;
    }

    /** The call that failed; empty as long as none has. */
    public String struck() {
        return struck;
    }

    /** A path on this disk to where another one leads. */
    public Path over(Path path) {
        return (Path) Proxy.newProxyInstance(
                FaultyDisk.class.getClassLoader(), new Class<?>[] {Path.class}, (self, method, arguments) -> {
                    if (method.getName().equals("getFileSystem")) {
                        return system;
                    }
                    Object[] bare = arguments == null ? new Object[0] : arguments.clone();
                    for (int i = 0; i < bare.length; i++) {
                        if (method.getName().equals("equals") && !(bare[i] instanceof Path)) {
                            return false;
                        }
                        bare[i] = bare[i] instanceof Path other ? bare(other) : bare[i];
                    }
                    Object answer = invoke(method, path, bare);
                    if (answer instanceof Iterator<?> names) {
                        return StreamSupport.stream(((Iterable<?>) () -> cast(names)).spliterator(), false)
                                .map(p -> over((Path) p))
                                .iterator();
                    }
                    return answer instanceof Path other ? over(other) : answer;
                });
    }

    @SuppressWarnings("unchecked")
    private static Iterator<Object> cast(Iterator<?> names) {
        return (Iterator<Object>) names;
    }

    private static Object invoke(java.lang.reflect.Method method, Object on, Object[] arguments) throws Throwable {
        try {
            return method.invoke(on, arguments);
        } catch (InvocationTargetException e) {
            throw e.getCause();
        }
    }

    private Path bare(Path path) {
        return path.getFileSystem() == system ? real.getPath(path.toString()) : path;
    }

    private FileSystemProvider below() {
        return real.provider();
    }

    private void call(String what) throws IOException {
        if (calls.incrementAndGet() == fatal) {
            struck = what;
            throw new IOException("the disk is gone");
        }
    }

    /** Counts what goes to the disk. */
    private final class Channel extends ForwardingChannel {

        Channel(FileChannel channel) {
            super(channel);
        }

        @Override
        void beforeWriting() throws IOException {
            call("write");
        }

        @Override
        public void force(boolean metaData) throws IOException {
            call("force");
            super.force(metaData);
        }

        @Override
        protected void implCloseChannel() throws IOException {
            super.implCloseChannel();
            call("close");
        }
    }

    private final class System extends FileSystem {

        @Override
        public FileSystemProvider provider() {
            return provider;
        }

        @Override
        public void close() {
            // the real one goes on
        }

        @Override
        public boolean isOpen() {
            return true;
        }

        @Override
        public boolean isReadOnly() {
            return false;
        }

        @Override
        public String getSeparator() {
            return real.getSeparator();
        }

        @Override
        public Iterable<Path> getRootDirectories() {
            return Stream.of(real.getRootDirectories().iterator().next())
                    .map(FaultyDisk.this::over)
                    .toList();
        }

        @Override
        public Iterable<FileStore> getFileStores() {
            return real.getFileStores();
        }

        @Override
        public Set<String> supportedFileAttributeViews() {
            return real.supportedFileAttributeViews();
        }

        @Override
        public Path getPath(String first, String... more) {
            return over(real.getPath(first, more));
        }

        @Override
        public PathMatcher getPathMatcher(String pattern) {
            PathMatcher matcher = real.getPathMatcher(pattern);
            return path -> matcher.matches(bare(path));
        }

        @Override
        public UserPrincipalLookupService getUserPrincipalLookupService() {
            return real.getUserPrincipalLookupService();
        }

        @Override
        public WatchService newWatchService() throws IOException {
            return real.newWatchService();
        }
    }

    private final class Provider extends FileSystemProvider {

        @Override
        public String getScheme() {
            return "faulty";
        }

        @Override
        public FileSystem newFileSystem(URI uri, Map<String, ?> env) {
            throw new UnsupportedOperationException();
        }

        @Override
        public FileSystem getFileSystem(URI uri) {
            return system;
        }

        @Override
        public Path getPath(URI uri) {
            throw new UnsupportedOperationException();
        }

        @Override
        public FileChannel newFileChannel(Path path, Set<? extends OpenOption> options, FileAttribute<?>... attributes)
                throws IOException {
            if (!options.stream().allMatch(o -> o.toString().equals("READ"))) {
                call("open");
            }
            return new Channel(below().newFileChannel(bare(path), options, attributes));
        }

        @Override
        public SeekableByteChannel newByteChannel(
                Path path, Set<? extends OpenOption> options, FileAttribute<?>... attributes) throws IOException {
            return newFileChannel(path, options, attributes);
        }

        @Override
        public DirectoryStream<Path> newDirectoryStream(Path folder, DirectoryStream.Filter<? super Path> filter)
                throws IOException {
            DirectoryStream<Path> stream = below().newDirectoryStream(bare(folder), p -> filter.accept(over(p)));
            return new DirectoryStream<>() {
                @Override
                public Iterator<Path> iterator() {
                    return StreamSupport.stream(stream.spliterator(), false)
                            .map(FaultyDisk.this::over)
                            .iterator();
                }

                @Override
                public void close() throws IOException {
                    stream.close();
                }
            };
        }

        @Override
        public void createDirectory(Path folder, FileAttribute<?>... attributes) throws IOException {
            call("createDirectory");
            below().createDirectory(bare(folder), attributes);
        }

        @Override
        public void delete(Path path) throws IOException {
            call("delete");
            below().delete(bare(path));
        }

        @Override
        public void copy(Path from, Path to, CopyOption... options) throws IOException {
            call("copy");
            below().copy(bare(from), bare(to), options);
        }

        @Override
        public void move(Path from, Path to, CopyOption... options) throws IOException {
            call("move");
            below().move(bare(from), bare(to), options);
        }

        @Override
        public boolean isSameFile(Path one, Path other) throws IOException {
            return below().isSameFile(bare(one), bare(other));
        }

        @Override
        public boolean isHidden(Path path) throws IOException {
            return below().isHidden(bare(path));
        }

        @Override
        public FileStore getFileStore(Path path) throws IOException {
            return below().getFileStore(bare(path));
        }

        @Override
        public void checkAccess(Path path, AccessMode... modes) throws IOException {
            below().checkAccess(bare(path), modes);
        }

        @Override
        public <V extends FileAttributeView> V getFileAttributeView(Path path, Class<V> type, LinkOption... options) {
            return below().getFileAttributeView(bare(path), type, options);
        }

        @Override
        public <A extends BasicFileAttributes> A readAttributes(Path path, Class<A> type, LinkOption... options)
                throws IOException {
            return below().readAttributes(bare(path), type, options);
        }

        @Override
        public Map<String, Object> readAttributes(Path path, String attributes, LinkOption... options)
                throws IOException {
            return below().readAttributes(bare(path), attributes, options);
        }

        @Override
        public void setAttribute(Path path, String attribute, Object value, LinkOption... options) throws IOException {
            below().setAttribute(bare(path), attribute, value, options);
        }
    }
}
