package org.orderlyferry.testkit.faults;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;

/** Streams that fail at the n-th of their calls, {@code flush} and {@code close} included. */
public final class FaultyStreams {

    private final int fatal;
    private int calls;

    /**
     * A fault.
     *
     * @param fatal which call fails, from 1, counted over all streams; 0 for none
     */
    public FaultyStreams(int fatal) {
        this.fatal = fatal;
    }

    /** Whether the fatal call was made. */
    public boolean isStruck() {
        return fatal > 0 && calls >= fatal;
    }

    private void call() throws IOException {
        if (++calls == fatal) {
            throw new IOException("the disk is gone");
        }
    }

    /** Hands on what is written. */
    public OutputStream over(OutputStream out) {
        return new OutputStream() {
            @Override
            public void write(int b) throws IOException {
                call();
                out.write(b);
            }

            @Override
            public void write(byte[] bytes, int from, int length) throws IOException {
                call();
                out.write(bytes, from, length);
            }

            @Override
            public void flush() throws IOException {
                call();
                out.flush();
            }

            @Override
            public void close() throws IOException {
                call();
                out.close();
            }
        };
    }

    /**
     * Gives what another stream gives, a few bytes at a time.
     *
     * @param most how many at once
     */
    public InputStream over(InputStream in, int most) {
        return new InputStream() {
            @Override
            public int read() throws IOException {
                call();
                return in.read();
            }

            @Override
            public int read(byte[] bytes, int from, int length) throws IOException {
                call();
                return in.read(bytes, from, Math.min(length, most));
            }

            @Override
            public void close() throws IOException {
                // whoever can't close what was read has lost nothing
                in.close();
            }
        };
    }
}
