package org.orderlyferry.cluster.hdfs;

import java.net.URI;
import java.nio.file.FileStore;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.nio.file.WatchService;
import java.nio.file.attribute.UserPrincipalLookupService;
import java.nio.file.spi.FileSystemProvider;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/** One cluster's file system, as its address names it. */
final class HdfsFileSystem extends FileSystem {

    private static final String PORT = ":9870";
    private static final Pattern NODE = Pattern.compile("([A-Za-z0-9._-]+|\\[[0-9A-Fa-f:.]+])(:\\d{1,5})?");

    private final HdfsProvider provider;
    private final String authority;
    private final WebHdfs client;

    private HdfsFileSystem(HdfsProvider provider, String authority, WebHdfs client) {
        this.provider = provider;
        this.authority = authority;
        this.client = client;
    }

    /**
     * The file system that a URI is of.
     *
     * @throws IllegalArgumentException if the URI names no name node, or has a secret in it
     */
    static HdfsFileSystem of(HdfsProvider provider, URI uri) {
        String authority = uri.getRawAuthority();
        if (authority == null) {
            throw new IllegalArgumentException("an address in HDFS names its name node: hdfs://host:9870/path");
        }
        int at = authority.lastIndexOf('@');
        String user = at < 0 ? "" : authority.substring(0, at);
        if (user.contains(":")) {
            throw new IllegalArgumentException(
                    "no secret stands in an address in HDFS; a delegation token is taken from " + Account.TOKEN);
        }
        List<String> nodes = new ArrayList<>();
        for (String node : authority.substring(at + 1).split(",")) {
            if (!NODE.matcher(node).matches()) {
                throw new IllegalArgumentException("this is no name node: " + node);
            }
            nodes.add(node.matches(".*:\\d+") ? node : node + PORT);
        }
        return new HdfsFileSystem(provider, authority, new WebHdfs(nodes, Account.of(user, System::getenv)));
    }

    String authority() {
        return authority;
    }

    WebHdfs client() {
        return client;
    }

    @Override
    public FileSystemProvider provider() {
        return provider;
    }

    /** Stays open: paths of it may be anywhere. */
    @Override
    public void close() {
        throw new UnsupportedOperationException("a file system in a cluster stays open");
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
        return "/";
    }

    @Override
    public Iterable<Path> getRootDirectories() {
        return List.of(getPath("/"));
    }

    @Override
    public Iterable<FileStore> getFileStores() {
        return List.of(new HdfsStore(this));
    }

    @Override
    public Set<String> supportedFileAttributeViews() {
        return Set.of("basic");
    }

    @Override
    public HdfsPath getPath(String first, String... more) {
        String text = more.length == 0 ? first : first + "/" + String.join("/", more);
        return HdfsPath.parse(this, text);
    }

    @Override
    public PathMatcher getPathMatcher(String syntaxAndPattern) {
        // names are matched as this machine's own file system does it
        PathMatcher matcher = FileSystems.getDefault().getPathMatcher(syntaxAndPattern);
        return path -> matcher.matches(Path.of(path.isAbsolute() ? ((HdfsPath) path).inside() : path.toString()));
    }

    @Override
    public UserPrincipalLookupService getUserPrincipalLookupService() {
        throw new UnsupportedOperationException("HDFS's users aren't looked up");
    }

    @Override
    public WatchService newWatchService() {
        throw new UnsupportedOperationException("HDFS tells of no changes");
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof HdfsFileSystem system && system.authority.equals(authority);
    }

    @Override
    public int hashCode() {
        return authority.hashCode();
    }

    @Override
    public String toString() {
        return HdfsProvider.SCHEME + "://" + authority;
    }
}
