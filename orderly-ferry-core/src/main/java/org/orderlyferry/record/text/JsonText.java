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
        // no JSON text begins so
        if (Utf8.looksLikeAnother(b, start, end)) {
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

    @Override
    public String toProper(String text) throws InvalidValueException {
        throw isNot();
    }
}
