package org.orderlyferry.documents.bson;

import java.nio.ByteBuffer;
import java.util.UUID;

/** Identifiers of RFC 9562 as the 16 bytes that documents hold, in the order of the text. */
final class Uuids {

    private Uuids() {}

    static String text(byte[] bytes) {
        ByteBuffer buffer = ByteBuffer.wrap(bytes);
        return new UUID(buffer.getLong(), buffer.getLong()).toString();
    }

    static byte[] bytes(String text) {
        UUID uuid = UUID.fromString(text);
        return ByteBuffer.allocate(16)
                .putLong(uuid.getMostSignificantBits())
                .putLong(uuid.getLeastSignificantBits())
                .array();
    }
}
