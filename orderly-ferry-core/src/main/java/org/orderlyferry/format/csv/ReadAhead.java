package org.orderlyferry.format.csv;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.stream.Stream;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.progress.Ahead;
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
    private final byte[] cut = new byte[4];
    private int cutLength;
    private Ahead<Chunk> ahead;
    private boolean ended;

    ReadAhead(InputStream in, String source, MarkFinder finder) {
        this.in = in;
        this.source = source;
        this.finder = finder;
    }

    /** The next chunk; the one that ends the file says so. Not to be asked after that one. */
    Chunk next() {
        if (ahead != null) {
            return ahead.take();
        }
        Chunk first = read(new Chunk(Chunk.newBytes(), 0, 0));
        if (!first.last) {
            List<Chunk> chunks = Stream.generate(() -> new Chunk(Chunk.newBytes(), 0, 0))
                    .limit(AHEAD)
                    .toList();
            ahead = new Ahead<>("ferry-chunks", chunks, this::fill, chunk -> false);
        }
        return first;
    }

    /** Gives a chunk back to be filled again. */
    void release(Chunk chunk) {
        if (ahead != null) {
            ahead.giveBack(chunk);
        }
    }

    private boolean fill(Chunk chunk) {
        if (ended) {
            return false;
        }
        read(chunk);
        return true;
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
        if (ahead != null) {
            ahead.close();
        }
        try {
            in.close();
        } catch (IOException e) {
            throw new PlaceException(source, "can't be closed: " + e.getMessage(), e);
        }
    }
}
