package org.orderlyferry.documents.bson;

import java.util.Locale;
import org.bson.BsonBinarySubType;
import org.bson.BsonType;

/** The types of values by the words that the system has for them. */
public final class BsonTypes {

    private BsonTypes() {}

    /**
     * A type's word.
     *
     * @param subtype of bytes
     */
    public static String word(BsonType type, byte subtype) {
        return switch (type) {
            case INT32 -> "int";
            case INT64 -> "long";
            case DECIMAL128 -> "decimal";
            case BOOLEAN -> "bool";
            case DATE_TIME -> "date";
            case OBJECT_ID -> "objectId";
            case DOCUMENT -> "object";
            case REGULAR_EXPRESSION -> "regex";
            case DB_POINTER -> "dbPointer";
            case JAVASCRIPT -> "javascript";
            case JAVASCRIPT_WITH_SCOPE -> "javascriptWithScope";
            case MIN_KEY -> "minKey";
            case MAX_KEY -> "maxKey";
            case BINARY ->
                subtype == 0
                        ? "binData"
                        : subtype == BsonBinarySubType.UUID_STANDARD.getValue() ? "uuid" : "binData " + subtype;
            default -> type.name().toLowerCase(Locale.ROOT);
        };
    }
}
