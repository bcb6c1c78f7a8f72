package org.orderlyferry.documents.mongodb;

import java.nio.charset.StandardCharsets;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonDocumentReader;
import org.bson.BsonJavaScriptWithScope;
import org.bson.BsonNull;
import org.bson.BsonReader;
import org.bson.BsonSerializationException;
import org.bson.BsonType;
import org.bson.BsonValue;
import org.bson.RawBsonDocument;
import org.bson.codecs.BsonValueCodec;
import org.bson.codecs.DecoderContext;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.documents.bson.JsonOfBson;
import org.orderlyferry.documents.bson.RawFields;
import org.orderlyferry.documents.bson.StrictReader;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.text.InvalidValueException;

/** Documents as readers of the driver's see them. */
final class Documents {

    /** The column of a document as it is. */
    static final ColumnDefinition WHOLE = ColumnDefinition.named("document", LogicalType.JSON)
            .nullable(false)
            .sourceType("document")
            .build();

    private static final byte[] ID = KeyStats.ID.getBytes(StandardCharsets.US_ASCII);

    private static final BsonValueCodec VALUES = new BsonValueCodec();
    private static final DecoderContext DECODING = DecoderContext.builder().build();

    private Documents() {}

    /** Whether a table's records are documents as they are. */
    static boolean areWhole(TableDefinition table) {
        return table.system().equals(Held.SYSTEM)
                && table.columns().stream()
                        .anyMatch(c -> c.name().equals(WHOLE.name())
                                && c.sourceType().equals(WHOLE.sourceType())
                                && c.type().equals(WHOLE.type()));
    }

    /** A reader that stands before a document. */
    static BsonReader reader(RawBsonDocument document) {
        return new StrictReader(document.getByteBuffer());
    }

    /** What a reader stands at, for people: as much of it as can be written. */
    static String shown(BsonReader reader) {
        StringBuilder json = new StringBuilder();
        try {
            JsonOfBson.write(reader, json);
        } catch (InvalidValueException e) {
            json.append('…');
        }
        return json.toString();
    }

    /** A reader that stands at a value. */
    static BsonReader reader(BsonValue value) {
        BsonReader reader = new BsonDocumentReader(new BsonDocument("value", value));
        reader.readStartDocument();
        reader.readBsonType();
        reader.readName();
        return reader;
    }

    /**
     * A document with all that is in it.
     *
     * @throws BsonSerializationException if a name stands twice in it, of which one value would be lost, or if it is nested deeper
     *     than {@link JsonOfBson#DEEPEST}
     */
    static BsonDocument decoded(RawBsonDocument document) {
        return document(reader(document), 0);
    }

    /**
     * A document's id; a null if it has none, as what a view gives may have.
     *
     * @throws BsonSerializationException if it can't be read
     */
    static BsonValue id(RawBsonDocument document) {
        RawFields fields = new RawFields(document);
        while (fields.next()) {
            if (fields.isNamed(ID)) {
                return value(fields.reader(), 0);
            }
        }
        return BsonNull.VALUE;
    }

    private static BsonDocument document(BsonReader reader, int depth) {
        mustBeShallow(depth);
        BsonDocument document = new BsonDocument();
        reader.readStartDocument();
        while (reader.readBsonType() != BsonType.END_OF_DOCUMENT) {
            String name = reader.readName();
            if (document.put(name, value(reader, depth + 1)) != null) {
                throw new BsonSerializationException("the field " + name + " stands there twice");
            }
        }
        reader.readEndDocument();
        return document;
    }

    private static BsonValue value(BsonReader reader, int depth) {
        return switch (reader.getCurrentBsonType()) {
            case DOCUMENT -> document(reader, depth);
            case ARRAY -> {
                mustBeShallow(depth);
                BsonArray array = new BsonArray();
                reader.readStartArray();
                while (reader.readBsonType() != BsonType.END_OF_DOCUMENT) {
                    array.add(value(reader, depth + 1));
                }
                reader.readEndArray();
                yield array;
            }
            case JAVASCRIPT_WITH_SCOPE ->
                new BsonJavaScriptWithScope(reader.readJavaScriptWithScope(), document(reader, depth + 1));
            default -> VALUES.decode(reader, DECODING);
        };
    }

    private static void mustBeShallow(int depth) {
        if (depth > JsonOfBson.DEEPEST) {
            throw new BsonSerializationException(
                    "the document is nested deeper than " + JsonOfBson.DEEPEST + " levels");
        }
    }
}
