package org.orderlyferry.cluster.hdfs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.apache.hadoop.conf.Configuration;
import org.apache.hadoop.hdfs.MiniDFSCluster;
import org.orderlyferry.io.WrittenPath;

/** A name node and two data nodes in this process, for as long as it lives; blocks are small, so that files have several. */
public final class MiniCluster {

    private static final int BLOCK = 1024 * 1024;

    private static MiniDFSCluster cluster;

    private MiniCluster() {}

    static synchronized MiniDFSCluster cluster() {
        if (cluster == null) {
            try {
                Path folder = Files.createTempDirectory("orderly-ferry-hdfs");
                Configuration settings = new Configuration();
                settings.set(MiniDFSCluster.HDFS_MINIDFS_BASEDIR, folder.toString());
                settings.setLong("dfs.blocksize", BLOCK);
                // its web servers unpack their pages there
                String temporary = System.setProperty("java.io.tmpdir", folder.toString());
                try {
                    cluster =
                            new MiniDFSCluster.Builder(settings).numDataNodes(2).build();
                    cluster.waitActive();
                } finally {
                    System.setProperty("java.io.tmpdir", temporary);
                }
                Runtime.getRuntime().addShutdownHook(new Thread(() -> end(folder)));
            } catch (IOException e) {
                throw new IllegalStateException("no cluster could be started", e);
            }
        }
        return cluster;
    }

    private static void end(Path folder) {
        try {
            cluster.shutdown(true);
        } catch (RuntimeException | Error e) {
            System.err.println("the cluster doesn't end as it should: " + e);
        }
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.deleteIfExists(path);
            }
        } catch (IOException e) {
            System.err.println("the cluster's folder stays: " + e);
        }
    }

    /** Where its WebHDFS is. */
    public static String address() {
        return "hdfs://quill@127.0.0.1:"
                + cluster().getNameNode().getHttpAddress().getPort();
    }

    /** A new folder in it. */
    public static Path folder() {
        try {
            // the root is its administrator's
            cluster().getFileSystem().mkdirs(new org.apache.hadoop.fs.Path("/tried"));
            cluster()
                    .getFileSystem()
                    .setPermission(
                            new org.apache.hadoop.fs.Path("/tried"),
                            org.apache.hadoop.fs.permission.FsPermission.createImmutable((short) 0777));
            return Files.createDirectories(WrittenPath.read(address() + "/tried/" + UUID.randomUUID()));
        } catch (IOException e) {
            throw new IllegalStateException("no folder could be made", e);
        }
    }

    /** All entries of a folder, by their names. */
    static List<String> names(Path folder) throws IOException {
        try (Stream<Path> all = Files.list(folder)) {
            return all.map(p -> p.getFileName().toString()).sorted().toList();
        }
    }
}
