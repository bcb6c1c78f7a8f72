package org.orderlyferry.documents.bson;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import org.bson.BsonBinary;
import org.bson.BsonBinaryReader;
import org.bson.BsonBinarySubType;
import org.bson.BsonSerializationException;
import org.bson.ByteBuf;
import org.bson.ByteBufNIO;

/**
 * Reads a document that anybody may have written: texts have to be UTF-8, and no length is believed that leads behind the bytes that
 * are there. The driver's own reader takes as much memory as a length says before it looks. Not safe for use by several threads.
 */
public final class StrictReader extends BsonBinaryReader {

    private final StrictInput input;

    /** A reader that stands before a document. */
    public StrictReader(ByteBuf document) {
        this(new StrictInput(document));
    }

    /** A reader that stands before a document. */
    StrictReader(byte[] document) {
        this(new ByteBufNIO(ByteBuffer.wrap(document).order(ByteOrder.LITTLE_ENDIAN)));
    }

    private StrictReader(StrictInput input) {
        super(input);
        this.input = input;
    }

    @Override
    protected BsonBinary doReadBinaryData() {
        // before the bytes stand their length and their type; those of the oldest type have their length once more
        int length = doPeekBinarySize();
        int least = doPeekBinarySubType() == BsonBinarySubType.OLD_BINARY.getValue() ? Integer.BYTES : 0;
        if (length < least || length > input.remaining() - Integer.BYTES - 1) {
            throw new BsonSerializationException("bytes have the length " + length);
        }
        return super.doReadBinaryData();
    }
}
