package org.orderlyferry.cluster.hdfs;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpRequest.BodyPublishers;
import java.nio.ByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.channels.NonReadableChannelException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.FileSystemException;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.io.LostFileException;
import org.slf4j.LoggerFactory;

/**
 * Writes a file from its beginning, or behind its end. What is small is sent at once, with its length; what isn't flows to
 * a data node as it is written. Closing waits for the answer, and looks whether the cluster has just what was written: its length, and
 * of a new file its checksum. Nothing is sent twice but a small file of which the cluster has nothing. Not safe for use by several
 * threads at once.
 */
final class HdfsOutput implements SeekableByteChannel {

    private static final int SMALL = 1024 * 1024;
    private static final int PIECE = 256 * 1024;
    private static final int ATTEMPTS = 3;

    private final WebHdfs client;
    private final HdfsPath path;
    private final boolean appending;
    private final boolean replacing;
    private final long before;
    private final ByteArrayOutputStream small = new ByteArrayOutputStream();
    private @Nullable PushedBytes large;
    private @Nullable CompletableFuture<Void> sent;
    /** Of a new file, where the cluster tells how large its blocks are. */
    private final @Nullable BlockChecksum checksum;

    private long written;
    /** Whoever writes has heard of it. */
    private boolean failed;

    private boolean closed;

    private HdfsOutput(WebHdfs client, HdfsPath path, boolean appending, boolean replacing, long before)
            throws IOException {
        this.client = client;
        this.path = path;
        this.appending = appending;
        this.replacing = replacing;
        this.before = before;
        long block = appending ? 0 : client.blockSize(path);
        this.checksum = block > 0 ? new BlockChecksum(block) : null;
    }

    /**
     * A new file.
     *
     * @param replacing whether one is there, which goes
     */
    static HdfsOutput create(WebHdfs client, HdfsPath path, boolean replacing) throws IOException {
        return new HdfsOutput(client, path, false, replacing, 0);
    }

    static HdfsOutput append(WebHdfs client, HdfsPath path) throws IOException {
        return new HdfsOutput(client, path, true, false, client.status(path).size());
    }

    @Override
    public int write(ByteBuffer from) throws IOException {
        if (closed) {
            throw new ClosedChannelException();
        }
        try {
            return taken(from);
        } catch (IOException | RuntimeException e) {
            failed = true;
            throw e;
        }
    }

    private int taken(ByteBuffer from) throws IOException {
        int count = from.remaining();
        byte[] bytes = new byte[count];
        from.get(bytes);
        written += count;
        if (large == null && small.size() + count <= SMALL) {
            small.write(bytes, 0, count);
            return count;
        }
        flow();
        for (int at = 0; at < count; at += PIECE) {
            push(java.util.Arrays.copyOfRange(bytes, at, Math.min(count, at + PIECE)));
        }
        return count;
    }

    /** From now on bytes flow. */
    private void flow() throws IOException {
        if (large != null) {
            return;
        }
        PushedBytes flowing = new PushedBytes();
        String method = appending ? "POST" : "PUT";
        URI destination = appending ? client.appending(path) : client.creating(path, replacing);
        large = flowing;
        sent = CompletableFuture.runAsync(
                () -> {
                    try {
                        client.send(method, destination, path, BodyPublishers.ofInputStream(() -> flowing));
                    } catch (LostFileException e) {
                        // a data node that runs out of room breaks off, and what it says then nobody hears
                        throw new UncheckedIOException(new LostFileException(
                                "the data node has broken it off; there may be no room for it, or a quota: "
                                        + e.getMessage(),
                                e));
                    } catch (IOException e) {
                        throw new UncheckedIOException(e);
                    }
                },
                work -> {
                    Thread thread = new Thread(work, "ferry-hdfs");
                    thread.setDaemon(true);
                    thread.start();
                });
        byte[] first = small.toByteArray();
        small.reset();
        if (first.length > 0) {
            push(first);
        }
    }

    private void push(byte[] bytes) throws IOException {
        if (checksum != null) {
            checksum.add(bytes, 0, bytes.length);
        }
        large.push(bytes, this::mustBeWanted);
    }

    /** An answer that comes before the end is a refusal. */
    private void mustBeWanted() throws IOException {
        if (sent.isDone()) {
            answered();
            throw new FileSystemException(path.toString(), null, "the data node has answered before the file's end");
        }
    }

    private void answered() throws IOException {
        try {
            sent.get(10, TimeUnit.MINUTES);
        } catch (ExecutionException e) {
            throw e.getCause() instanceof UncheckedIOException io
                    ? io.getCause()
                    : new IOException(path + ": " + e.getCause().getMessage(), e.getCause());
        } catch (TimeoutException e) {
            throw new LostFileException(path + ": the data node hasn't answered for ten minutes", e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted", e);
        }
    }

    @Override
    public void close() throws IOException {
        if (closed) {
            return;
        }
        closed = true;
        if (failed) {
            if (large != null) {
                large.stop();
            }
            return;
        }
        if (large == null) {
            if (small.size() > 0 || !appending) {
                sendSmall(small.toByteArray());
            }
            return;
        }
        try {
            large.end(() -> {
                if (sent.isDone()) {
                    answered();
                }
            });
            answered();
        } catch (IOException | RuntimeException e) {
            large.stop();
            throw e;
        }
        mustBeThere();
    }

    private void sendSmall(byte[] bytes) throws IOException {
        if (checksum != null) {
            checksum.add(bytes, 0, bytes.length);
        }
        boolean over = replacing;
        for (int i = 1; ; i++) {
            try {
                URI destination = appending ? client.appending(path) : client.creating(path, over);
                client.send(appending ? "POST" : "PUT", destination, path, BodyPublishers.ofByteArray(bytes));
                break;
            } catch (LostFileException e) {
                // what was added may still be on its way; and who has made an empty file nobody can tell
                if (appending || bytes.length == 0 || i == ATTEMPTS) {
                    throw e;
                }
                LoggerFactory.getLogger(HdfsOutput.class).debug("no answer; it is written anew", e);
                over = true;
            }
        }
        mustBeThere();
    }

    private void mustBeThere() throws IOException {
        HdfsStatus status = client.status(path);
        if (status.size() != before + written) {
            throw new FileSystemException(
                    path.toString(),
                    null,
                    "the cluster has " + status.size() + " bytes of the " + (before + written) + " that were written");
        }
        if (checksum != null && status.isPlain() && status.blockSize() == client.blockSize(path)) {
            JsonNode kept = client.checksum(path);
            if (!checksum.agrees(
                    kept.path("algorithm").asText(), kept.path("bytes").asText())) {
                throw new FileSystemException(
                        path.toString(), null, "the cluster's checksum isn't that of what was written");
            }
        }
    }

    @Override
    public boolean isOpen() {
        return !closed;
    }

    @Override
    public long position() {
        return before + written;
    }

    @Override
    public long size() {
        return before + written;
    }

    @Override
    public int read(ByteBuffer to) {
        throw new NonReadableChannelException();
    }

    @Override
    public SeekableByteChannel position(long place) {
        if (place != position()) {
            throw new UnsupportedOperationException("a file in HDFS is written from its beginning to its end");
        }
        return this;
    }

    @Override
    public SeekableByteChannel truncate(long size) {
        throw new UnsupportedOperationException("a file in HDFS is written from its beginning to its end");
    }
}
