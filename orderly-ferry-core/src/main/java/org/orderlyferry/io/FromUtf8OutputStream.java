package org.orderlyferry.io;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import java.nio.charset.StandardCharsets;
import org.apiguardian.api.API;
import org.orderlyferry.record.text.Utf8;

/** Writes UTF-8 text, in pieces that may part a character, in another encoding that has all its characters. */
@API(status = API.Status.INTERNAL)
public final class FromUtf8OutputStream extends OutputStream {

    private final OutputStream out;
    private final CharsetEncoder encoder;
    /** The beginning of a character whose end is in the next piece. */
    private final byte[] begun = new byte[3];

    private int begunLength;

    /** Writes to a stream, in an encoding. */
    public FromUtf8OutputStream(OutputStream out, Charset encoding) {
        this.out = out;
        this.encoder = encoding.newEncoder();
    }

    @Override
    public void write(int b) {
        throw new UnsupportedOperationException("single bytes may be half a character");
    }

    @Override
    public void write(byte[] bytes, int offset, int length) throws IOException {
        byte[] piece = bytes;
        int from = offset;
        int to = offset + length;
        if (begunLength > 0) {
            piece = new byte[begunLength + length];
            System.arraycopy(begun, 0, piece, 0, begunLength);
            System.arraycopy(bytes, offset, piece, begunLength, length);
            from = 0;
            to = piece.length;
        }
        int end = Utf8.lastWhole(piece, from, to);
        begunLength = to - end;
        System.arraycopy(piece, end, begun, 0, begunLength);
        encode(new String(piece, from, end - from, StandardCharsets.UTF_8));
    }

    private void encode(String text) throws IOException {
        CharBuffer chars = CharBuffer.wrap(text);
        // one encoder throughout, so that a byte-order mark is written once
        ByteBuffer encoded = ByteBuffer.allocate((int) (chars.remaining() * encoder.maxBytesPerChar()) + 16);
        var result = encoder.encode(chars, encoded, false);
        if (result.isError()) {
            result.throwException();
        }
        out.write(encoded.array(), 0, encoded.position());
    }

    @Override
    public void flush() throws IOException {
        out.flush();
    }

    @Override
    public void close() throws IOException {
        out.close();
    }
}
