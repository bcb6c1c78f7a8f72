package org.orderlyferry.documents.mongodb;

import com.mongodb.client.MongoCursor;
import java.util.List;
import java.util.Set;
import org.bson.BsonReader;
import org.bson.BsonReaderMark;
import org.bson.BsonType;
import org.bson.RawBsonDocument;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.documents.bson.JsonOfBson;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;

/** Gives a record for each document: its fields as columns, or all of it as one. */
final class FieldsReader extends DocumentReader {

    /** Where the document itself goes; null where its fields are columns. */
    private final @Nullable Integer whole;

    /** Whether the id's fields are columns. */
    private final boolean keyOfParts;

    /** Whether no column tells of the id, which a load gave. */
    private final boolean keyless;

    private final StringBuilder json = new StringBuilder();

    /** A reader of a whole table, of some columns; see {@link DocumentReader}. */
    FieldsReader(
            Server server,
            MongoCursor<RawBsonDocument> cursor,
            TableDefinition table,
            List<String> columns,
            Set<String> unread,
            Rejects rejects) {
        super(server, cursor, table, columns, unread, rejects);
        this.whole = Documents.areWhole(table) ? place(Documents.WHOLE.name()) : null;
        this.keyOfParts = table.columnNames().stream().anyMatch(n -> n.startsWith(KeyStats.ID + "."))
                && place(KeyStats.ID) == null;
        this.keyless = place(KeyStats.ID) == null && !keyOfParts;
    }

    @Override
    void records(RawBsonDocument document, RecordBatch batch) {
        begin();
        BsonReader reader = Documents.reader(document);
        if (whole != null) {
            if (!whole(document, reader)) {
                return;
            }
        } else {
            reader.readStartDocument();
            while (reader.readBsonType() != BsonType.END_OF_DOCUMENT) {
                if (!field(reader, document)) {
                    return;
                }
            }
        }
        end(batch);
    }

    private boolean whole(RawBsonDocument document, BsonReader reader) {
        try {
            if (whole >= 0) {
                json.setLength(0);
                JsonOfBson.write(Documents.documentReader(document), json);
                take(whole, org.orderlyferry.record.text.Utf8.bytes(json.toString()));
            }
        } catch (InvalidValueException e) {
            wrong(Documents.WHOLE.name(), document.toString(), e);
            return false;
        }
        reader.readStartDocument();
        while (reader.readBsonType() != BsonType.END_OF_DOCUMENT) {
            if (reader.readName().equals(KeyStats.ID)) {
                return keyless
                        || (keyOfParts ? parts(reader, document) : value(reader, KeyStats.ID, KeyStats.ID, document));
            }
            reader.skipValue();
        }
        return true;
    }

    /** Takes the next field; false if the record is rejected. */
    private boolean field(BsonReader reader, RawBsonDocument document) {
        String name = reader.readName();
        if (name.equals(KeyStats.ID)) {
            if (keyless) {
                reader.skipValue();
                return true;
            } else if (keyOfParts) {
                return parts(reader, document);
            }
        }
        return value(reader, name.isEmpty() ? " " : name, name, document);
    }

    private boolean parts(BsonReader reader, RawBsonDocument document) {
        if (reader.getCurrentBsonType() != BsonType.DOCUMENT) {
            unknown("", KeyStats.ID);
            return false;
        }
        reader.readStartDocument();
        while (reader.readBsonType() != BsonType.END_OF_DOCUMENT) {
            String name = KeyStats.ID + "." + reader.readName();
            if (!value(reader, name, name, document)) {
                return false;
            }
        }
        reader.readEndDocument();
        return true;
    }

    private boolean value(BsonReader reader, String column, String field, RawBsonDocument document) {
        Integer place = place(column);
        if (place == null) {
            unknown(key(document), field);
            return false;
        } else if (place < 0) {
            reader.skipValue();
            return true;
        }
        BsonReaderMark mark = reader.getMark();
        try {
            take(place, cells(place).read(reader));
            return true;
        } catch (InvalidValueException e) {
            mark.reset();
            wrong(column, shown(reader), e);
            return false;
        }
    }

    private String shown(BsonReader reader) {
        json.setLength(0);
        try {
            JsonOfBson.write(reader, json);
        } catch (InvalidValueException e) {
            // as much of it as could be written
        }
        return json.toString();
    }

    private static String key(RawBsonDocument document) {
        return KeyStats.ID + " = " + document.get(KeyStats.ID);
    }
}
