package org.orderlyferry.databases.dump;

import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/** Numbers and texts as a dump's table of contents has them: a byte for the sign, then the bytes, the lowest first. */
final class TocBytes {

    private static final int LONGEST = 256 * 1024 * 1024;

    private final InputStream in;
    private int intSize = 4;

    TocBytes(InputStream in) {
        this.in = in;
    }

    void intSize(int bytes) throws IOException {
        if (bytes < 1 || bytes > Long.BYTES) {
            throw new IOException("it has numbers of " + bytes + " bytes");
        }
        intSize = bytes;
    }

    int octet() throws IOException {
        int read = in.read();
        if (read < 0) {
            throw new EOFException("it ends in the middle");
        }
        return read;
    }

    int number() throws IOException {
        boolean negative = octet() != 0;
        long number = 0;
        for (int i = 0; i < intSize; i++) {
            number |= (long) octet() << 8 * i;
        }
        if (number < 0 || number > Integer.MAX_VALUE) {
            throw new IOException("it has a number where none so large belongs");
        }
        return (int) (negative ? -number : number);
    }

    void skip(int bytes) throws IOException {
        in.skipNBytes(bytes);
    }

    /** A text; null for none. Its bytes are kept as they are, each a character: the script says in which encoding it is. */
    @Nullable
    String text() throws IOException {
        int length = number();
        if (length < 0) {
            return null;
        }
        if (length > LONGEST) {
            throw new IOException("it has a text of " + length + " bytes in its table of contents");
        }
        byte[] bytes = in.readNBytes(length);
        if (bytes.length < length) {
            throw new EOFException("it ends in the middle");
        }
        return new String(bytes, StandardCharsets.ISO_8859_1);
    }

    String textOrNone() throws IOException {
        String text = text();
        return text == null ? "" : text;
    }
}
