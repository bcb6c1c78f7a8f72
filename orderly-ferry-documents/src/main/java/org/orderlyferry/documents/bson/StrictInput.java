package org.orderlyferry.documents.bson;

import java.nio.charset.StandardCharsets;
import org.bson.BsonSerializationException;
import org.bson.ByteBuf;
import org.bson.io.BsonInput;
import org.bson.io.BsonInputMark;
import org.bson.io.ByteBufferBsonInput;
import org.bson.types.ObjectId;
import org.orderlyferry.record.text.Utf8;

/** A document's bytes, whose texts have to be UTF-8: the driver's own reading puts a sign in the place of what isn't, and says nothing. */
final class StrictInput implements BsonInput {

    private static final char INSTEAD = '\uFFFD';

    private final ByteBufferBsonInput input;
    private final int size;

    /** Over some bytes. */
    StrictInput(ByteBuf bytes) {
        size = bytes.limit();
        input = new ByteBufferBsonInput(bytes);
    }

    /** How many bytes come yet. */
    int remaining() {
        return size - getPosition();
    }

    @Override
    public String readString() {
        int length = readInt32();
        if (length < 1 || length > remaining()) {
            throw new BsonSerializationException("a text has the length " + length);
        }
        byte[] bytes = new byte[length];
        readBytes(bytes);
        if (bytes[length - 1] != 0) {
            throw new BsonSerializationException("a text has no end");
        }
        String text = new String(bytes, 0, length - 1, StandardCharsets.UTF_8);
        mustBe(text, bytes, length - 1, "a text");
        return text;
    }

    @Override
    public String readCString() {
        int start = getPosition();
        BsonInputMark mark = getMark(remaining());
        String text = input.readCString();
        if (text.indexOf(INSTEAD) >= 0) {
            byte[] bytes = new byte[getPosition() - start];
            mark.reset();
            readBytes(bytes);
            mustBe(text, bytes, bytes.length - 1, "a name");
        }
        return text;
    }

    private static void mustBe(String text, byte[] bytes, int length, String what) {
        if (text.indexOf(INSTEAD) >= 0 && Utf8.firstInvalid(bytes, 0, length) >= 0) {
            throw new BsonSerializationException(what + " isn't UTF-8: " + text);
        }
    }

    @Override
    public int getPosition() {
        return input.getPosition();
    }

    @Override
    public byte readByte() {
        return input.readByte();
    }

    @Override
    public void readBytes(byte[] bytes) {
        input.readBytes(bytes);
    }

    @Override
    public void readBytes(byte[] bytes, int offset, int length) {
        input.readBytes(bytes, offset, length);
    }

    @Override
    public long readInt64() {
        return input.readInt64();
    }

    @Override
    public double readDouble() {
        return input.readDouble();
    }

    @Override
    public int readInt32() {
        return input.readInt32();
    }

    @Override
    public ObjectId readObjectId() {
        return input.readObjectId();
    }

    @Override
    public void skipCString() {
        input.skipCString();
    }

    @Override
    public void skip(int numBytes) {
        input.skip(numBytes);
    }

    @Override
    public BsonInputMark getMark(int readLimit) {
        return input.getMark(readLimit);
    }

    @Override
    public boolean hasRemaining() {
        return input.hasRemaining();
    }

    @Override
    public void close() {
        input.close();
    }
}
