package org.orderlyferry.documents.mongodb;

import java.util.Map;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonString;
import org.bson.BsonValue;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.record.apart.Nesting;

/** Documents' values. */
final class BsonNesting implements Nesting<BsonValue> {

    @Override
    public boolean isObject(BsonValue value) {
        return value.isDocument();
    }

    @Override
    public boolean isList(BsonValue value) {
        return value.isArray();
    }

    @Override
    public Iterable<Map.Entry<String, BsonValue>> fields(BsonValue object) {
        return object.asDocument().entrySet();
    }

    @Override
    public @Nullable BsonValue field(BsonValue object, String name) {
        return ((BsonDocument) object).get(name);
    }

    @Override
    public Iterable<BsonValue> elements(BsonValue list) {
        return list.asArray();
    }

    /** Every document has one, whatever it is. */
    @Override
    public boolean isKey(BsonValue value) {
        return true;
    }

    @Override
    public BsonValue text(String text) {
        return new BsonString(text);
    }

    /** A place in a list, which no document has so many of that 32 bits don't do. */
    @Override
    public BsonValue number(long number) {
        return new BsonInt32((int) number);
    }
}
