package org.orderlyferry.format;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import org.apiguardian.api.API;

/** Ends after so many bytes; if there are fewer, somebody has cut the file short meanwhile. */
@API(status = API.Status.INTERNAL)
public final class EndingStream extends FilterInputStream {

    private long left;

    /** The next bytes of a stream. */
    public EndingStream(InputStream in, long bytes) {
        super(in);
        this.left = bytes;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] bytes, int from, int length) throws IOException {
        if (left == 0 && length > 0) {
            return -1;
        }
        int count = in.read(bytes, from, (int) Math.min(length, left));
        if (count < 0) {
            throw new IOException("it ended " + left + " bytes before it should");
        }
        left -= count;
        return count;
    }

    @Override
    public long skip(long bytes) throws IOException {
        long skipped = in.skip(Math.min(bytes, left));
        left -= skipped;
        return skipped;
    }

    @Override
    public boolean markSupported() {
        return false;
    }
}
