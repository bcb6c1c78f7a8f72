package org.orderlyferry.record.text;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** One JSON value (RFC 8259), kept as it is written; an ARRAY is a JSON array. */
final class JsonText extends ValueText {

    private static final JsonFactory JSON = new JsonFactory();

    JsonText(LogicalType type) {
        super(type);
    }

    @Override
    public boolean isProper(byte[] b, int start, int end) {
        if (looksEncodedOtherwise(b, start, end)) {
            return false;
        }
        try (JsonParser parser = JSON.createParser(b, start, end - start)) {
            JsonToken first = parser.nextToken();
            if (first == null || type().name() == TypeName.ARRAY && first != JsonToken.START_ARRAY) {
                return false;
            }
            parser.skipChildren();
            parser.finishToken();
            return parser.nextToken() == null;
        } catch (IOException e) {
            return false;
        }
    }

    /**
     * By bytes of 0 and by a sign of the byte order, the parser would find another encoding, or pass over the sign. Value text is UTF-8,
     * and no JSON text begins with either.
     */
    private static boolean looksEncodedOtherwise(byte[] b, int start, int end) {
        for (int i = start; i < Math.min(end, start + 4); i++) {
            if (b[i] == 0) {
                return true;
            }
        }
        return end - start >= 3
                && b[start] == (byte) 0xEF
                && b[start + 1] == (byte) 0xBB
                && b[start + 2] == (byte) 0xBF;
    }

    @Override
    public String toProper(String text) throws InvalidValueException {
        throw isNot();
    }
}
