package org.orderlyferry.io;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.function.LongFunction;
import org.apiguardian.api.API;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;

/**
 * An encoding's bytes as those of UTF-8. What isn't valid in that encoding is an error that tells the line and what
 * stands before it, and never becomes a question mark. Not safe for use by several threads at once.
 */
@API(status = API.Status.INTERNAL)
public final class DecodedInput extends InputStream {

    private static final int SIZE = 64 * 1024;
    /** So much of what stands before a byte is shown. */
    private static final int SHOWN = 20;

    private final InputStream in;
    private final Charset encoding;
    private final CharsetDecoder decoder;
    private final LongFunction<Origin> origins;
    private final ByteBuffer raw = ByteBuffer.allocate(SIZE).flip();
    private final CharBuffer chars = CharBuffer.allocate(SIZE);
    private ByteBuffer utf8 = ByteBuffer.allocate(0);
    private boolean ended;
    private long line = 1;
    private boolean behindReturn;

    /**
     * A stream over another, which it closes.
     *
     * @param origins a line, from 1, as messages name it
     */
    public DecodedInput(InputStream in, Charset encoding, LongFunction<Origin> origins) {
        this.in = in;
        this.encoding = encoding;
        this.origins = origins;
        this.decoder = encoding.newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT);
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] to, int offset, int length) throws IOException {
        while (!utf8.hasRemaining()) {
            if (ended) {
                return -1;
            }
            more();
        }
        int count = Math.min(length, utf8.remaining());
        utf8.get(to, offset, count);
        return count;
    }

    private void more() throws IOException {
        raw.compact();
        int count = in.read(raw.array(), raw.position(), raw.remaining());
        ended = count < 0;
        raw.position(raw.position() + Math.max(0, count)).flip();
        CoderResult result = decoder.decode(raw, chars, ended);
        if (ended && result.isUnderflow()) {
            result = decoder.flush(chars);
        }
        chars.flip();
        countLines();
        if (result.isError()) {
            throw MalformedFileException.ofEncoding(
                    origins.apply(line),
                    String.format(
                            Locale.ROOT,
                            "the byte 0x%02X isn't valid %s here, after %s; if the file is in another encoding, give it",
                            raw.get(raw.position()),
                            encoding.name(),
                            before()));
        }
        // a decoder writes both halves of a surrogate pair or neither, so this can't split one
        utf8 = StandardCharsets.UTF_8.encode(chars);
        chars.clear();
    }

    private void countLines() {
        for (int i = 0; i < chars.length(); i++) {
            char c = chars.charAt(i);
            line += c == '\r' || c == '\n' && !behindReturn ? 1 : 0;
            behindReturn = c == '\r';
        }
    }

    private String before() {
        String text = chars.toString();
        int from = Math.max(text.lastIndexOf('\n'), text.lastIndexOf('\r')) + 1;
        return BadValueException.shown(text.substring(Math.max(from, text.length() - SHOWN)));
    }

    @Override
    public void close() throws IOException {
        in.close();
    }
}
