package org.orderlyferry.record.text;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import org.apiguardian.api.API;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** Values as elements of the JSON array (RFC 8259) that the value text of an ARRAY is. */
@API(status = API.Status.INTERNAL)
public final class JsonElement {

    private JsonElement() {}

    /**
     * A value as JSON: numbers digit by digit and truth values as such, JSON as what it is, all else as a string, and so
     * what is among numbers but none to JSON.
     *
     * @param text the value text of the type
     */
    public static String of(String text, LogicalType type) {
        boolean number = (type.name().isExactNumber() || type.name().isApproximateNumber())
                && !text.isEmpty()
                && Character.isDigit(text.charAt(text.length() - 1));
        boolean bare = number
                || type.name() == TypeName.BOOLEAN
                || type.name() == TypeName.JSON
                || type.name() == TypeName.ARRAY;
        return bare ? text : JsonNodeFactory.instance.textNode(text).toString();
    }
}
