package org.orderlyferry.format.csv;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.function.LongFunction;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;

/** Another encoding's bytes as UTF-8; what isn't valid in that encoding is an error, never a question mark. */
final class ToUtf8InputStream extends InputStream {

    private static final int SIZE = 64 * 1024;

    private final InputStream in;
    private final Charset encoding;
    private final CharsetDecoder decoder;
    private final LongFunction<Origin> origins;
    private final ByteBuffer raw = ByteBuffer.allocate(SIZE).flip();
    private final CharBuffer chars = CharBuffer.allocate(SIZE);
    private ByteBuffer utf8 = ByteBuffer.allocate(0);
    private boolean ended;
    private long line = 1;

    ToUtf8InputStream(InputStream in, Charset encoding, LongFunction<Origin> origins) {
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
        for (int i = 0; i < chars.length(); i++) {
            line += chars.charAt(i) == '\n' ? 1 : 0;
        }
        if (result.isError()) {
            throw new MalformedFileException(
                    origins.apply(line),
                    String.format("the byte 0x%02X isn't valid %s here", raw.get(raw.position()), encoding.name()));
        }
        // a decoder writes both halves of a surrogate pair or neither, so this can't split one
        utf8 = StandardCharsets.UTF_8.encode(chars);
        chars.clear();
    }

    @Override
    public void close() throws IOException {
        in.close();
    }
}
