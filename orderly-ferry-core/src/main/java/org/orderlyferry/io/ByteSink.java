package org.orderlyferry.io;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import org.apiguardian.api.API;
import org.orderlyferry.problem.PlaceException;

/** Gathers bytes on their way to a file; a large value goes by without being copied. Not safe for use by several threads. */
@API(status = API.Status.INTERNAL)
public final class ByteSink implements AutoCloseable {

    /** Bytes of a value that are written at once at most; a multiple of three, for base64. */
    private static final int PIECE = 48 * 1024;

    private static final int BUFFER = 64 * 1024;

    private final OutputStream out;
    private final String shown;
    private byte[] buffer = new byte[BUFFER];
    private int size;

    /**
     * A sink.
     *
     * @param out closed with it
     * @param shown the file, for messages
     */
    public ByteSink(OutputStream out, String shown) {
        this.out = out;
        this.shown = shown;
    }

    /** Adds a byte. */
    public void add(byte b) {
        room(1);
        buffer[size++] = b;
    }

    /** Adds a text in UTF-8. */
    public void add(String text) {
        add(text.getBytes(StandardCharsets.UTF_8));
    }

    /** Adds all bytes of an array. */
    public void add(byte[] from) {
        add(from, 0, from.length);
    }

    /** Adds a range of bytes. */
    public void add(byte[] from, int start, int end) {
        int length = end - start;
        if (length > PIECE) {
            drain();
            send(from, start, length);
            return;
        }
        room(length);
        System.arraycopy(from, start, buffer, size, length);
        size += length;
    }

    /** Adds a range of bytes in base64, a piece at a time. */
    public void addBase64(byte[] from, int start, int end) {
        for (int at = start; at < end; at += PIECE) {
            add(Base64.getEncoder().encode(Arrays.copyOfRange(from, at, Math.min(end, at + PIECE))));
        }
    }

    /** Sends what has gathered on its way, if that is worth while. */
    public void ease() {
        if (size >= BUFFER) {
            drain();
        }
    }

    private void room(int more) {
        if (size + more > buffer.length) {
            buffer = Arrays.copyOf(buffer, Math.max(buffer.length * 2, size + more));
        }
    }

    private void drain() {
        send(buffer, 0, size);
        size = 0;
        if (buffer.length > 4 * BUFFER) {
            buffer = new byte[BUFFER];
        }
    }

    private void send(byte[] from, int start, int length) {
        try {
            out.write(from, start, length);
        } catch (IOException e) {
            throw failed(e);
        }
    }

    /** Sends all on its way. */
    public void flush() {
        drain();
        try {
            out.flush();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(shown, "can't be written: " + e.getMessage(), e);
    }

    @Override
    public void close() {
        try {
            out.close();
        } catch (IOException e) {
            throw failed(e);
        }
    }
}
