package org.orderlyferry.documents.mongodb;

import java.nio.ByteBuffer;
import org.bson.types.ObjectId;

/**
 * Ids of documents whose records have no key. Such an id has no moment of its making, which all that servers and drivers make
 * have, so that it is known again and isn't taken for something that was at the source.
 */
final class GeneratedId {

    /** Bytes that stand for the moment. */
    private static final int MOMENT = 4;

    private GeneratedId() {}

    /**
     * An id.
     *
     * @param load which load of the collection it is, from 0
     * @param task which of its slices
     * @param row which of the slice's records
     */
    static ObjectId of(int load, int task, int row) {
        return new ObjectId(ByteBuffer.allocate(12)
                .putInt(0)
                .put((byte) load)
                .put((byte) (task >> 16))
                .putShort((short) task)
                .putInt(row)
                .array());
    }

    static boolean is(ObjectId id) {
        return id.getTimestamp() == 0;
    }

    /** Which load of the collection one is of. */
    static int load(ObjectId id) {
        return id.toByteArray()[MOMENT] & 0xff;
    }
}
