package org.orderlyferry.io;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import org.apiguardian.api.API;

/**
 * What a compressed file expands to, as long as that is in proportion: a small file that expands without end is made to
 * do harm.
 */
@API(status = API.Status.INTERNAL)
public final class BoundedExpansion extends FilterInputStream {

    /** Below so many bytes, nothing is asked. */
    private static final long HARMLESS = 256L * 1024 * 1024;
    /** How many bytes one byte may expand to: delimited text comes to 50, and seldom to 200. */
    private static final long MOST = 500;

    private final String shown;
    private final Counted compressed;
    private long expanded;

    /** Undoes a compression. */
    public interface Undo {
        InputStream of(InputStream in) throws IOException;
    }

    private static final class Counted extends FilterInputStream {
        private long count;

        Counted(InputStream in) {
            super(in);
        }

        @Override
        public int read() throws IOException {
            int b = super.read();
            count += b < 0 ? 0 : 1;
            return b;
        }

        @Override
        public int read(byte[] to, int from, int length) throws IOException {
            int read = super.read(to, from, length);
            count += Math.max(0, read);
            return read;
        }
    }

    /**
     * What a compressed file expands to.
     *
     * @param in the compressed bytes
     * @param shown the file, for messages
     */
    public BoundedExpansion(InputStream in, Undo undo, String shown) throws IOException {
        this(new Counted(in), undo, shown);
    }

    private BoundedExpansion(Counted compressed, Undo undo, String shown) throws IOException {
        super(undo.of(compressed));
        this.compressed = compressed;
        this.shown = shown;
    }

    @Override
    public int read() throws IOException {
        int b = super.read();
        count(b < 0 ? 0 : 1);
        return b;
    }

    @Override
    public int read(byte[] to, int from, int length) throws IOException {
        int read = super.read(to, from, length);
        count(read);
        return read;
    }

    private void count(int more) throws IOException {
        expanded += Math.max(0, more);
        mustBeInProportion(compressed.count, expanded, shown);
    }

    /**
     * Checks what a table of contents says of a file in it, before it is expanded.
     *
     * @param compressed in bytes
     * @param expanded in bytes
     * @param shown the file, for messages
     * @throws IOException if it is out of proportion
     */
    public static void mustBeInProportion(long compressed, long expanded, String shown) throws IOException {
        if (expanded > HARMLESS && expanded / MOST > compressed) {
            throw new IOException(
                    shown + " expands to more than " + MOST + " times its size; it looks as if it was made to do harm");
        }
    }
}
