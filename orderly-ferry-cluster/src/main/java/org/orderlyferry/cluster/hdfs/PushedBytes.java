package org.orderlyferry.cluster.hdfs;

import java.io.IOException;
import java.io.InputStream;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import org.orderlyferry.io.LostFileException;

/** Bytes that one thread writes and another one reads, a few pieces apart. */
final class PushedBytes extends InputStream {

    private static final byte[] END = new byte[0];
    private static final int PIECES = 8;

    private final BlockingQueue<byte[]> pieces = new ArrayBlockingQueue<>(PIECES);
    private byte[] piece = END;
    private int at;
    private boolean ended;
    private volatile boolean stopped;

    /** Whether somebody still wants what is pushed. */
    @FunctionalInterface
    interface Wanted {
        void check() throws IOException;
    }

    /** Hands a piece over; waits where the reader is behind, but not for ever. */
    void push(byte[] bytes, Wanted wanted) throws IOException {
        put(bytes, wanted);
    }

    void end(Wanted wanted) throws IOException {
        put(END, wanted);
    }

    /** Makes the reader fail: nothing that is whole comes any more. */
    void stop() {
        stopped = true;
        pieces.clear();
        pieces.offer(END);
    }

    private void put(byte[] bytes, Wanted wanted) throws IOException {
        try {
            for (int seconds = 0; !pieces.offer(bytes, 1, TimeUnit.SECONDS); seconds++) {
                wanted.check();
                if (seconds >= 120) {
                    throw new LostFileException("the data node has taken nothing for two minutes", null);
                }
            }
            wanted.check();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted", e);
        }
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] to, int from, int length) throws IOException {
        try {
            while (at == piece.length && !ended) {
                piece = pieces.take();
                at = 0;
                ended = piece == END;
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted", e);
        }
        if (stopped) {
            throw new IOException("the file is given up");
        }
        if (ended) {
            return -1;
        }
        int count = Math.min(length, piece.length - at);
        System.arraycopy(piece, at, to, from, count);
        at += count;
        return count;
    }
}
