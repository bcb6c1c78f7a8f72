package org.orderlyferry.cluster.hdfs;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.channels.NonWritableChannelException;
import java.nio.channels.SeekableByteChannel;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.io.LostFileException;
import org.slf4j.LoggerFactory;

/**
 * Reads a file, from any place on. A connection that is lost, ends too early or says nothing for a minute is followed by
 * another one from the same place on, as long as the file is the same. Not safe for use by several threads at once.
 */
final class HdfsInput implements SeekableByteChannel {

    private static final int ATTEMPTS = 4;
    private static final long SILENCE_SECONDS = 60;
    private static final int PIECE = 64 * 1024;
    private static final ScheduledExecutorService WATCH = Executors.newSingleThreadScheduledExecutor(work -> {
        Thread thread = new Thread(work, "ferry-hdfs-watch");
        thread.setDaemon(true);
        return thread;
    });

    private final WebHdfs client;
    private final HdfsPath path;
    private final HdfsStatus status;
    private final byte[] piece = new byte[PIECE];
    private @Nullable InputStream in;
    private long position;
    private boolean closed;

    HdfsInput(WebHdfs client, HdfsPath path) throws IOException {
        this.client = client;
        this.path = path;
        this.status = client.status(path);
        if (status.isDirectory()) {
            throw new IOException(path + " is a folder");
        }
    }

    @Override
    public int read(ByteBuffer to) throws IOException {
        if (closed) {
            throw new ClosedChannelException();
        }
        if (position >= status.size()) {
            return -1;
        }
        int wanted = (int) Math.min(Math.min(to.remaining(), PIECE), status.size() - position);
        if (wanted == 0) {
            return 0;
        }
        int count = count(wanted);
        to.put(piece, 0, count);
        position += count;
        return count;
    }

    private int count(int wanted) throws IOException {
        for (int i = 1; ; i++) {
            IOException failure;
            if (in == null) {
                // which is tried several times by itself
                in = client.open(path, position);
            }
            try {
                int count = watched(in, wanted);
                if (count > 0) {
                    return count;
                }
                failure = new IOException("its bytes ended at " + position + " of " + status.size());
            } catch (IOException e) {
                failure = e;
            }
            drop();
            if (i == ATTEMPTS) {
                throw new LostFileException(path + ": " + failure.getMessage(), failure);
            }
            LoggerFactory.getLogger(HdfsInput.class).debug("{} is opened anew at {}", path, position, failure);
            mustBeTheSame();
        }
    }

    /** A server that says nothing any more would be waited for for ever. */
    private int watched(InputStream from, int wanted) throws IOException {
        Future<?> end = WATCH.schedule(() -> close(from), SILENCE_SECONDS, TimeUnit.SECONDS);
        try {
            return from.read(piece, 0, wanted);
        } finally {
            end.cancel(false);
        }
    }

    private void mustBeTheSame() throws IOException {
        HdfsStatus now = client.status(path);
        if (now.size() != status.size()
                || !now.lastModifiedTime().equals(status.lastModifiedTime())
                || !String.valueOf(now.fileKey()).equals(String.valueOf(status.fileKey()))) {
            throw new IOException(path + " was changed while it was read");
        }
    }

    private void drop() {
        if (in != null) {
            close(in);
            in = null;
        }
    }

    private static void close(InputStream stream) {
        try {
            stream.close();
        } catch (IOException e) {
            LoggerFactory.getLogger(HdfsInput.class).debug("a lost connection can't be closed", e);
        }
    }

    @Override
    public long position() {
        return position;
    }

    @Override
    public SeekableByteChannel position(long place) {
        if (place != position) {
            drop();
            position = place;
        }
        return this;
    }

    @Override
    public long size() {
        return status.size();
    }

    @Override
    public boolean isOpen() {
        return !closed;
    }

    @Override
    public void close() {
        closed = true;
        drop();
    }

    @Override
    public int write(ByteBuffer from) {
        throw new NonWritableChannelException();
    }

    @Override
    public SeekableByteChannel truncate(long size) {
        throw new NonWritableChannelException();
    }
}
