package org.orderlyferry.documents.mongodb;

import org.bson.BsonArray;
import org.bson.BsonBinaryReader;
import org.bson.BsonDocument;
import org.bson.BsonDocumentReader;
import org.bson.BsonReader;
import org.bson.BsonSerializationException;
import org.bson.BsonType;
import org.bson.BsonValue;
import org.bson.RawBsonDocument;
import org.bson.codecs.BsonValueCodec;
import org.bson.codecs.DecoderContext;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.documents.bson.StrictInput;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/** Documents as readers of the driver's see them. */
final class Documents {

    /** The column of a document as it is. */
    static final ColumnDefinition WHOLE = ColumnDefinition.named("document", LogicalType.JSON)
            .nullable(false)
            .sourceType("document")
            .build();

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
        return new BsonBinaryReader(new StrictInput(document.getByteBuffer()));
    }

    /** A reader that stands at a document as at a value. */
    static BsonReader documentReader(RawBsonDocument document) {
        BsonReader reader = reader(document);
        reader.readBsonType();
        return reader;
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
     * @throws BsonSerializationException if a name stands twice in it, of which one value would be lost
     */
    static BsonDocument decoded(RawBsonDocument document) {
        return document(reader(document));
    }

    private static BsonDocument document(BsonReader reader) {
        BsonDocument document = new BsonDocument();
        reader.readStartDocument();
        while (reader.readBsonType() != BsonType.END_OF_DOCUMENT) {
            String name = reader.readName();
            if (document.put(name, value(reader)) != null) {
                throw new BsonSerializationException("the field " + name + " stands there twice");
            }
        }
        reader.readEndDocument();
        return document;
    }

    private static BsonValue value(BsonReader reader) {
        return switch (reader.getCurrentBsonType()) {
            case DOCUMENT -> document(reader);
            case ARRAY -> {
                BsonArray array = new BsonArray();
                reader.readStartArray();
                while (reader.readBsonType() != BsonType.END_OF_DOCUMENT) {
                    array.add(value(reader));
                }
                reader.readEndArray();
                yield array;
            }
            default -> VALUES.decode(reader, DECODING);
        };
    }
}
