package org.orderlyferry.format.csv;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import java.nio.charset.StandardCharsets;

/** Writes UTF-8 text in another encoding. Each write must hold whole characters that the encoding has. */
final class FromUtf8OutputStream extends OutputStream {

    private final OutputStream out;
    private final CharsetEncoder encoder;

    FromUtf8OutputStream(OutputStream out, Charset encoding) {
        this.out = out;
        this.encoder = encoding.newEncoder();
    }

    @Override
    public void write(int b) {
        throw new UnsupportedOperationException("single bytes may be half a character");
    }

    @Override
    public void write(byte[] bytes, int offset, int length) throws IOException {
        CharBuffer chars = CharBuffer.wrap(new String(bytes, offset, length, StandardCharsets.UTF_8));
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
