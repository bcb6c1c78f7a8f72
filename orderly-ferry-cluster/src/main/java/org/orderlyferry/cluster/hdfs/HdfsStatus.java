package org.orderlyferry.cluster.hdfs;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileTime;
import org.jspecify.annotations.Nullable;

/**
 * What the name node says of a file or folder.
 *
 * @param name its name, where it stands in a list; else empty
 * @param isDirectory whether it is a folder
 * @param size its length in bytes
 * @param lastModifiedTime when it was written last, by the name node's clock, or as somebody has set it
 * @param lastAccessTime when it was read last, about
 * @param fileKey its number
 * @param blockSize how many bytes a block has
 * @param isPlain whether its blocks hold its bytes as they are: neither encrypted nor erasure coded
 */
record HdfsStatus(
        String name,
        boolean isDirectory,
        long size,
        FileTime lastModifiedTime,
        FileTime lastAccessTime,
        Object fileKey,
        long blockSize,
        boolean isPlain)
        implements BasicFileAttributes {

    /**
     * Reads it.
     *
     * @throws IOException if the server says what no file is
     */
    static HdfsStatus of(JsonNode node) throws IOException {
        String type = node.path("type").asText();
        boolean known = type.equals("FILE") || type.equals("DIRECTORY");
        if (!known
                || !node.path("length").isIntegralNumber()
                || node.path("length").asLong() < 0) {
            throw new IOException("the server tells of what is neither a file nor a folder");
        }
        return new HdfsStatus(
                node.path("pathSuffix").asText(),
                type.equals("DIRECTORY"),
                node.path("length").asLong(),
                FileTime.fromMillis(node.path("modificationTime").asLong()),
                FileTime.fromMillis(node.path("accessTime").asLong()),
                node.path("fileId").asLong(),
                node.path("blockSize").asLong(),
                !node.path("encBit").asBoolean() && !node.path("ecBit").asBoolean());
    }

    @Override
    public FileTime creationTime() {
        return lastModifiedTime;
    }

    @Override
    public boolean isRegularFile() {
        return !isDirectory;
    }

    @Override
    public boolean isSymbolicLink() {
        return false;
    }

    @Override
    public boolean isOther() {
        return false;
    }

    @Override
    public @Nullable Object fileKey() {
        return fileKey;
    }
}
