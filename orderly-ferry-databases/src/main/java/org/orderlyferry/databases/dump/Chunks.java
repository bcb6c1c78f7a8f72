package org.orderlyferry.databases.dump;

import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;

/** One table's data in a dump of one file: chunks, each behind its length, up to one of none. */
final class Chunks extends InputStream {

    private final InputStream in;
    private final TocBytes bytes;
    private int left;
    private boolean ended;

    Chunks(InputStream in) {
        this.in = in;
        this.bytes = new TocBytes(in);
    }

    private boolean hasBytes() throws IOException {
        while (left == 0 && !ended) {
            left = bytes.number();
            if (left < 0) {
                throw new IOException("a chunk of its data has a length below zero");
            }
            ended = left == 0;
        }
        return !ended;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
    }

    @Override
    public int read(byte[] to, int from, int length) throws IOException {
        if (length == 0) {
            return 0;
        }
        if (!hasBytes()) {
            return -1;
        }
        int read = in.read(to, from, Math.min(length, left));
        if (read < 0) {
            throw new EOFException("it ends in the middle of a table's data");
        }
        left -= read;
        return read;
    }

    /** Goes behind the last chunk. */
    void skipRest() throws IOException {
        while (hasBytes()) {
            in.skipNBytes(left);
            left = 0;
        }
    }
}
