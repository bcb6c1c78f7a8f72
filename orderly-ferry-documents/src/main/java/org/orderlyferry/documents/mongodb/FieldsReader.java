package org.orderlyferry.documents.mongodb;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.bson.BsonType;
import org.bson.RawBsonDocument;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.documents.bson.RawFields;
import org.orderlyferry.documents.bson.RawJson;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.progress.PiecesAhead;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;

/** Gives a record for each document: its fields as columns, or all of it as one. */
final class FieldsReader extends DocumentReader {

    private static final byte[] ID = KeyStats.ID.getBytes(StandardCharsets.US_ASCII);

    /** Where the document itself goes; null where its fields are columns. */
    private final @Nullable Integer whole;

    /** Whether the id's fields are columns. */
    private final boolean keyOfParts;

    /** Whether no column tells of the id, which a load gave. */
    private final boolean keyless;

    private final RawJson rawJson = new RawJson();
    private final List<@Nullable Expected> expected = new ArrayList<>();

    /** The field that stood at a place in the last document. */
    private record Expected(byte[] bytes, String column, @Nullable Integer place) {}

    /** A reader of a whole table, of some columns; see {@link DocumentReader}. */
    FieldsReader(
            Server server,
            PiecesAhead<RawBsonDocument> documents,
            TableDefinition table,
            List<String> columns,
            Set<String> unread,
            Rejects rejects) {
        super(server, documents, table, columns, unread, rejects);
        this.whole = Documents.areWhole(table) ? place(Documents.WHOLE.name()) : null;
        this.keyOfParts = table.columnNames().stream().anyMatch(n -> n.startsWith(KeyStats.ID + "."))
                && place(KeyStats.ID) == null;
        this.keyless = place(KeyStats.ID) == null && !keyOfParts;
    }

    @Override
    void records(RawBsonDocument document, RecordBatch batch) {
        begin();
        if (whole != null && whole >= 0 && !takeWhole(document)) {
            return;
        }
        RawFields fields = new RawFields(document);
        int field = 0;
        while (fields.next()) {
            if (fields.isNamed(ID)) {
                if (!keyless && !id(fields, document)) {
                    return;
                }
            } else if (whole == null && !field(fields, field++, document)) {
                return;
            }
        }
        end(batch);
    }

    private boolean takeWhole(RawBsonDocument document) {
        try {
            rawJson.write(document, take(whole));
            return true;
        } catch (InvalidValueException e) {
            wrong(Documents.WHOLE.name(), rawJson.begun(), e);
            return false;
        }
    }

    private boolean id(RawFields fields, RawBsonDocument document) {
        if (!keyOfParts) {
            return value(fields, KeyStats.ID, place(KeyStats.ID), document);
        }
        if (fields.type() != BsonType.DOCUMENT) {
            unknown("", KeyStats.ID);
            return false;
        }
        RawFields parts = fields.inside();
        while (parts.next()) {
            String name = KeyStats.ID + "." + parts.name();
            if (!value(parts, name, place(name), document)) {
                return false;
            }
        }
        return true;
    }

    /** Takes a field; false if the record is rejected. Documents of a collection mostly have the same ones in the same order. */
    private boolean field(RawFields fields, int number, RawBsonDocument document) {
        if (number == expected.size()) {
            expected.add(null);
        }
        Expected known = expected.get(number);
        if (known == null || !fields.isNamed(known.bytes())) {
            String name = fields.name();
            String column = name.isEmpty() ? " " : name;
            known = new Expected(name.getBytes(StandardCharsets.UTF_8), column, place(column));
            expected.set(number, known);
        }
        return value(fields, known.column(), known.place(), document);
    }

    private boolean value(RawFields fields, String column, @Nullable Integer place, RawBsonDocument document) {
        if (place == null) {
            unknown(key(document), fields.name());
            return false;
        } else if (place < 0) {
            return true;
        }
        try {
            cells(place).read(fields, take(place));
            return true;
        } catch (InvalidValueException e) {
            wrong(column, Documents.shown(fields.reader()), e);
            return false;
        }
    }

    private static String key(RawBsonDocument document) {
        return KeyStats.ID + " = " + Documents.id(document);
    }
}
