package org.orderlyferry.documents.bson;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.Base64;
import org.bson.BsonBinary;
import org.bson.BsonBinarySubType;
import org.bson.BsonDateTime;
import org.bson.BsonDbPointer;
import org.bson.BsonDecimal128;
import org.bson.BsonDocument;
import org.bson.BsonDouble;
import org.bson.BsonInt32;
import org.bson.BsonInt64;
import org.bson.BsonJavaScript;
import org.bson.BsonJavaScriptWithScope;
import org.bson.BsonMaxKey;
import org.bson.BsonMinKey;
import org.bson.BsonObjectId;
import org.bson.BsonRegularExpression;
import org.bson.BsonSymbol;
import org.bson.BsonTimestamp;
import org.bson.BsonUndefined;
import org.bson.BsonValue;
import org.bson.types.Decimal128;
import org.bson.types.ObjectId;

/** Objects with one name that begins with a {@code $}, by which JSON carries what it has no values for. */
final class TypedWrapper {

    private TypedWrapper() {}

    /** What an object stands for; itself where it is just an object. */
    static BsonValue unwrapped(BsonDocument object) {
        if (object.isEmpty() || object.size() > 2 || !object.getFirstKey().startsWith("$")) {
            return object;
        }
        String name = object.getFirstKey();
        try {
            return object.size() == 1 ? single(name, object.get(name), object) : pair(name, object);
        } catch (RuntimeException e) {
            // looks like one and isn't: it stays the object that it is
            return object;
        }
    }

    private static BsonValue pair(String name, BsonDocument object) {
        if (name.equals("$code") && object.containsKey("$scope")) {
            return new BsonJavaScriptWithScope(
                    object.getString(name).getValue(), object.get("$scope").asDocument());
        }
        if (name.equals("$binary") && object.containsKey("$type")) {
            return new BsonBinary(
                    (byte) Integer.parseInt(object.getString("$type").getValue(), 16),
                    Base64.getDecoder().decode(object.getString(name).getValue()));
        }
        return object;
    }

    private static BsonValue single(String name, BsonValue inner, BsonDocument object) {
        return switch (name) {
            case "$oid" -> new BsonObjectId(new ObjectId(text(inner)));
            case "$numberInt" -> new BsonInt32(Integer.parseInt(text(inner)));
            case "$numberLong" -> new BsonInt64(Long.parseLong(text(inner)));
            case "$numberDouble" -> new BsonDouble(floating(text(inner)));
            case "$numberDecimal" -> new BsonDecimal128(Decimal128.parse(text(inner)));
            case "$date" ->
                new BsonDateTime(
                        inner.isString()
                                ? millis(OffsetDateTime.parse(text(inner)).toInstant())
                                : inner.asInt64().getValue());
            case "$uuid" -> new BsonBinary(BsonBinarySubType.UUID_STANDARD, Uuids.bytes(text(inner)));
            case "$binary" -> {
                BsonDocument parts = exactly(inner, "base64", "subType");
                yield new BsonBinary(
                        (byte) Integer.parseInt(parts.getString("subType").getValue(), 16),
                        Base64.getDecoder().decode(parts.getString("base64").getValue()));
            }
            case "$regularExpression" -> {
                BsonDocument parts = exactly(inner, "pattern", "options");
                yield new BsonRegularExpression(
                        parts.getString("pattern").getValue(),
                        parts.getString("options").getValue());
            }
            case "$timestamp" -> {
                BsonDocument parts = exactly(inner, "t", "i");
                yield new BsonTimestamp(unsigned(parts.get("t")), unsigned(parts.get("i")));
            }
            case "$code" -> new BsonJavaScript(text(inner));
            case "$symbol" -> new BsonSymbol(text(inner));
            case "$undefined" -> inner.asBoolean().getValue() ? new BsonUndefined() : object;
            case "$minKey" -> inner.asInt32().getValue() == 1 ? new BsonMinKey() : object;
            case "$maxKey" -> inner.asInt32().getValue() == 1 ? new BsonMaxKey() : object;
            case "$dbPointer" -> {
                BsonDocument parts = exactly(inner, "$ref", "$id");
                yield new BsonDbPointer(
                        parts.getString("$ref").getValue(),
                        parts.getObjectId("$id").getValue());
            }
            default -> object;
        };
    }

    private static String text(BsonValue value) {
        return value.asString().getValue();
    }

    private static BsonDocument exactly(BsonValue value, String one, String other) {
        BsonDocument document = value.asDocument();
        if (document.size() != 2 || !document.containsKey(one) || !document.containsKey(other)) {
            throw new IllegalArgumentException("not " + one + " and " + other);
        }
        return document;
    }

    private static int unsigned(BsonValue value) {
        long number = value.asNumber().longValue();
        if (number < 0 || number > 0xffff_ffffL) {
            throw new IllegalArgumentException("not of 32 bits: " + number);
        }
        return (int) number;
    }

    private static double floating(String text) {
        return switch (text) {
            case "Infinity" -> Double.POSITIVE_INFINITY;
            case "-Infinity" -> Double.NEGATIVE_INFINITY;
            default -> Double.parseDouble(text);
        };
    }

    /**
     * The milliseconds since 1970.
     *
     * @throws DateTimeException if it has a fraction of a millisecond
     */
    static long millis(Instant moment) {
        if (moment.getNano() % 1_000_000 != 0) {
            throw new DateTimeException("has more digits behind a second than three");
        }
        return moment.toEpochMilli();
    }
}
