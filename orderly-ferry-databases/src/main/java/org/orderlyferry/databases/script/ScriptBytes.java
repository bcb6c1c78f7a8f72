package org.orderlyferry.databases.script;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.io.DecodedInput;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/** A script's bytes, one after the other, and the lines that they are on. */
final class ScriptBytes implements AutoCloseable {

    /** There is no byte any more. */
    static final int END = -1;

    private static final int BUFFER = 128 * 1024;

    private final InputStream in;
    private final String shown;
    private final byte[] buffer = new byte[BUFFER];
    private int at;
    private int filled;
    private long line = 1;
    private long taken;

    ScriptBytes(FileSource file, Charset encoding) {
        this.shown = file.shown();
        try {
            // bytes of a UTF-8 script are looked at value by value: those of a binary string may be any
            this.in = encoding.equals(StandardCharsets.UTF_8)
                    ? file.open()
                    : new DecodedInput(file.open(), encoding, n -> new Origin("", shown, n, true));
        } catch (IOException e) {
            throw new PlaceException(shown, "can't be read: " + e.getMessage(), e);
        }
    }

    /** The line of the next byte, from 1. */
    long line() {
        return line;
    }

    /** How many bytes were taken. */
    long position() {
        return taken;
    }

    /** Goes on to a place further on, of which the line is known. */
    void goOn(long position, long itsLine) {
        long further = position - taken;
        int here = (int) Math.min(filled - at, further);
        at += here;
        try {
            in.skipNBytes(further - here);
        } catch (IOException e) {
            throw failed(e);
        }
        taken = position;
        line = itsLine;
    }

    /** The next byte, which stays. */
    int peek() {
        return at < filled ? buffer[at] & 0xFF : look(0);
    }

    /** A byte further on; what is in front of it stays. */
    int look(int further) {
        if (at + further >= filled) {
            System.arraycopy(buffer, at, buffer, 0, filled - at);
            filled -= at;
            at = 0;
            try {
                while (filled <= further) {
                    int read = in.read(buffer, filled, buffer.length - filled);
                    if (read < 0) {
                        return END;
                    }
                    filled += read;
                }
            } catch (IOException e) {
                throw failed(e);
            }
        }
        return buffer[at + further] & 0xFF;
    }

    int take() {
        int next = peek();
        if (next != END) {
            at++;
            taken++;
            line += next == '\n' ? 1 : 0;
        }
        return next;
    }

    private RuntimeException failed(IOException e) {
        return new PlaceException(shown, "can't be read: " + e.getMessage(), e);
    }

    @Override
    public void close() {
        try {
            in.close();
        } catch (IOException e) {
            throw failed(e);
        }
    }
}
