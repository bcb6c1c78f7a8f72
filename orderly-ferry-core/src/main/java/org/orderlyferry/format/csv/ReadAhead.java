package org.orderlyferry.format.csv;

import java.io.IOException;
import java.io.InputStream;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.Utf8;

/**
 * Reads a file a few chunks ahead of the one who takes them apart, finds their marks, and checks their encoding. A file
 * of a single chunk is read by the caller; only a longer one is worth a thread.
 */
final class ReadAhead implements AutoCloseable {

    private static final int AHEAD = 3;

    private final InputStream in;
    private final String source;
    private final MarkFinder finder;
    private final BlockingQueue<Object> ready = new ArrayBlockingQueue<>(AHEAD);
    private final BlockingQueue<Chunk> free = new ArrayBlockingQueue<>(AHEAD + 1);
    private final byte[] cut = new byte[4];
    private int cutLength;
    private Thread thread;
    private boolean ended;
    private volatile boolean closed;

    ReadAhead(InputStream in, String source, MarkFinder finder) {
        this.in = in;
        this.source = source;
        this.finder = finder;
    }

    /** The next chunk; the one that ends the file says so. Not to be asked after that one. */
    Chunk next() {
        if (thread == null) {
            Chunk first = read(new Chunk(Chunk.newBytes(), 0, 0));
            if (!first.last) {
                start();
            }
            return first;
        }
        try {
            Object next = ready.take();
            if (next instanceof FerryException failure) {
                throw failure;
            }
            if (next instanceof Chunk chunk) {
                return chunk;
            }
            throw new IllegalStateException("reading ahead failed", (Throwable) next);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new StoppedException();
        }
    }

    /** Gives a chunk back to be filled again. */
    void release(Chunk chunk) {
        if (thread != null) {
            free.offer(chunk);
        }
    }

    private void start() {
        for (int i = 0; i < AHEAD; i++) {
            free.add(new Chunk(Chunk.newBytes(), 0, 0));
        }
        thread = new Thread(this::run, "read-ahead " + source);
        thread.setDaemon(true);
        thread.start();
    }

    private void run() {
        try {
            while (!ended && !closed) {
                ready.put(read(free.take()));
            }
        } catch (InterruptedException e) {
            // closed in the middle of the file
        } catch (RuntimeException | Error e) {
            ready.clear();
            ready.offer(e);
        }
    }

    private Chunk read(Chunk chunk) {
        if (chunk.bytes.length != Chunk.HEADROOM + Chunk.SIZE + RecordBatch.SLACK) {
            chunk.bytes = Chunk.newBytes();
        }
        if (chunk.marks == null) {
            chunk.marks = new int[Chunk.SIZE + 2 * Long.SIZE];
        }
        chunk.start = Chunk.HEADROOM;
        chunk.end = fill(chunk.bytes, Chunk.HEADROOM, Chunk.HEADROOM + Chunk.SIZE);
        chunk.last = ended;
        chunk.count = finder.find(chunk.bytes, chunk.start, chunk.end, chunk.marks);
        chunk.bad = firstInvalid(chunk, finder.sawHighBit());
        return chunk;
    }

    private int fill(byte[] bytes, int from, int to) {
        int at = from;
        try {
            while (at < to) {
                int count = in.read(bytes, at, to - at);
                if (count < 0) {
                    ended = true;
                    break;
                }
                at += count;
            }
        } catch (IOException e) {
            throw new PlaceException(source, "can't be read: " + e.getMessage(), e);
        }
        return at;
    }

    /** A character that the chunk's end cuts in two is looked at with the next chunk. */
    private int firstInvalid(Chunk chunk, boolean sawHighBit) {
        if (!sawHighBit && cutLength == 0) {
            return -1;
        }
        int from = chunk.start - cutLength;
        System.arraycopy(cut, 0, chunk.bytes, from, cutLength);
        int to = chunk.last ? chunk.end : Utf8.lastWhole(chunk.bytes, from, chunk.end);
        cutLength = chunk.end - to;
        System.arraycopy(chunk.bytes, to, cut, 0, cutLength);
        return Utf8.firstInvalid(chunk.bytes, from, to);
    }

    @Override
    public void close() {
        closed = true;
        if (thread != null) {
            thread.interrupt();
            try {
                thread.join();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
        try {
            in.close();
        } catch (IOException e) {
            throw new PlaceException(source, "can't be closed: " + e.getMessage(), e);
        }
    }
}
