package org.orderlyferry.documents.mongodb;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.bson.BsonReader;
import org.bson.BsonReaderMark;
import org.bson.BsonType;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.documents.bson.RawFields;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.place.FieldCounts;

/**
 * What the ids of a collection's documents are: values of one type; or documents that all have the same fields, which are a key of
 * several columns then; or anything. Not safe for use by several threads.
 */
final class KeyStats {

    /** The field that is every document's key. */
    static final String ID = "_id";

    private static final int MOST_PARTS = 16;

    private final FieldStats whole = new FieldStats();
    private final Map<String, FieldStats> parts = new LinkedHashMap<>();
    private boolean ofParts = true;
    private boolean generated = true;
    private long seen;

    /** Whether a column is the key, or one of its parts. */
    static boolean isOfKey(String column) {
        return column.equals(ID) || column.startsWith(ID + ".");
    }

    /** Takes an id. */
    void add(RawFields id) {
        if (id.type() == BsonType.DOCUMENT) {
            add(id.reader());
            return;
        }
        seen++;
        ofParts = false;
        generated = generated
                && id.type() == BsonType.OBJECT_ID
                && GeneratedId.is(id.reader().readObjectId());
        whole.add(id);
    }

    /** Takes the id that a reader stands at, and goes behind it. */
    void add(BsonReader from) {
        seen++;
        BsonType type = from.getCurrentBsonType();
        BsonReaderMark mark = from.getMark();
        if (generated && !(type == BsonType.OBJECT_ID && GeneratedId.is(from.readObjectId()))) {
            generated = false;
        }
        mark.reset();
        if (type == BsonType.DOCUMENT && ofParts) {
            mark = from.getMark();
            parts(from);
            mark.reset();
        } else {
            ofParts = false;
        }
        whole.add(from);
    }

    private void parts(BsonReader from) {
        List<String> names = new ArrayList<>();
        from.readStartDocument();
        while (from.readBsonType() != BsonType.END_OF_DOCUMENT) {
            BsonType type = from.getCurrentBsonType();
            String name = from.readName();
            boolean plain = type != BsonType.DOCUMENT
                    && type != BsonType.ARRAY
                    && type != BsonType.NULL
                    && !names.contains(name)
                    && names.size() < MOST_PARTS;
            if (!plain) {
                ofParts = false;
                return;
            }
            names.add(name);
            if (seen == 1) {
                parts.put(name, new FieldStats());
            }
            FieldStats stats = parts.get(name);
            if (stats == null) {
                ofParts = false;
                return;
            }
            stats.add(from);
        }
        ofParts &= names.equals(List.copyOf(parts.keySet())) && !names.isEmpty();
    }

    /** Whether all were given by a load, to records that had no key: they mean nothing. */
    boolean isGenerated() {
        return seen > 0 && generated;
    }

    /** The columns of the key. */
    List<ColumnDefinition> columns() {
        if (seen == 0 || !ofParts || parts.values().stream().anyMatch(p -> p.held() == Held.JSON)) {
            return List.of(whole.keyColumn(ID));
        }
        return parts.entrySet().stream()
                .map(p -> p.getValue().keyColumn(ID + "." + p.getKey()))
                .toList();
    }

    /** What was found of the columns of the key, by their names. */
    Map<String, FieldCounts> counts() {
        Map<String, FieldCounts> counts = new LinkedHashMap<>();
        for (ColumnDefinition column : columns()) {
            FieldStats part =
                    column.name().equals(ID) ? whole : parts.get(column.name().substring(ID.length() + 1));
            counts.put(column.name(), part.counts(seen));
        }
        return counts;
    }

    /** What the ids are, where they are not of one type. */
    FieldStats whole() {
        return whole;
    }
}
