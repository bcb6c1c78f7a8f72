package org.orderlyferry.cluster.hdfs;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.FileStore;
import java.nio.file.attribute.BasicFileAttributeView;
import java.nio.file.attribute.FileAttributeView;
import java.nio.file.attribute.FileStoreAttributeView;
import org.jspecify.annotations.Nullable;

/** The room that a cluster has, all copies of a block counted. */
final class HdfsStore extends FileStore {

    private final HdfsFileSystem system;

    HdfsStore(HdfsFileSystem system) {
        this.system = system;
    }

    private long room(String what) throws IOException {
        JsonNode room = system.client().room(system.getPath("/"));
        if (!room.has(what)) {
            throw new IOException(system + " doesn't tell how much room it has");
        }
        return room.path(what).asLong();
    }

    @Override
    public String name() {
        return system.authority();
    }

    @Override
    public String type() {
        return HdfsProvider.SCHEME;
    }

    @Override
    public boolean isReadOnly() {
        return false;
    }

    @Override
    public long getTotalSpace() throws IOException {
        return room("capacity");
    }

    @Override
    public long getUsableSpace() throws IOException {
        return room("remaining");
    }

    @Override
    public long getUnallocatedSpace() throws IOException {
        return room("remaining");
    }

    @Override
    public boolean supportsFileAttributeView(Class<? extends FileAttributeView> type) {
        return type == BasicFileAttributeView.class;
    }

    @Override
    public boolean supportsFileAttributeView(String name) {
        return name.equals("basic");
    }

    @Override
    public <V extends FileStoreAttributeView> @Nullable V getFileStoreAttributeView(Class<V> type) {
        return null;
    }

    @Override
    public Object getAttribute(String attribute) {
        throw new UnsupportedOperationException("a cluster's room has no attribute " + attribute);
    }
}
