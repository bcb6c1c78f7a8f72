package org.orderlyferry.format.json;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.io.JsonEOFException;
import java.io.IOException;

/**
 * What a file's first bytes say as JSON.
 *
 * @param isArrayOrObject whether they begin with an array, or one object
 * @param isObjects whether they begin with an object, which others may follow; one that is long, or alone, looks the same
 */
record Beginning(boolean isArrayOrObject, boolean isObjects) {

    private static final int ENOUGH = 1_000;

    static Beginning of(byte[] head) {
        try (JsonParser parser = JsonInput.FACTORY.createParser(head)) {
            JsonToken first = parser.nextToken();
            if (first != JsonToken.START_ARRAY && first != JsonToken.START_OBJECT) {
                return new Beginning(false, false);
            }
            boolean several = false;
            try {
                int depth = 1;
                for (int i = 0; i < ENOUGH; i++) {
                    JsonToken token = parser.nextToken();
                    if (token == null) {
                        break;
                    }
                    several |= depth == 0;
                    depth += token.isStructStart() ? 1 : token.isStructEnd() ? -1 : 0;
                }
            } catch (JsonEOFException e) {
                // the head is cut off somewhere
            }
            boolean object = first == JsonToken.START_OBJECT;
            return new Beginning(!(object && several), object);
        } catch (IOException e) {
            return new Beginning(false, false);
        }
    }
}
