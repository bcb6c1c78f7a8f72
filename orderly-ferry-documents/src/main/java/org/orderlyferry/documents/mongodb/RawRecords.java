package org.orderlyferry.documents.mongodb;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.bson.BsonType;
import org.bson.RawBsonDocument;
import org.bson.types.ObjectId;
import org.orderlyferry.documents.bson.ColumnCells;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.documents.bson.RawValues;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;

/**
 * Writes a table's records as documents in their bytes, where each column has a place of its own in them whatever the others hold. Not
 * safe for use by several threads.
 */
final class RawRecords implements DocumentMaker {

    private static final byte[] ID = utf8(KeyStats.ID);

    /** Objects in one another; deeper ones are looked at one by one. */
    private static final int DEEPEST = 50;

    private final RawValues out = new RawValues();
    private final LoadTable table;
    private final List<ColumnCells> cells;
    private final List<Integer> key;
    private final List<byte[]> keyNames;
    private final List<Field> fields;

    /** A field of documents: a column's, or an object of some that stand one behind the other. */
    private record Field(byte[] name, int column, List<Field> inner) {}

    private RawRecords(LoadTable table, List<ColumnCells> cells, List<byte[]> keyNames, List<Field> fields) {
        this.table = table;
        this.cells = cells;
        this.key = table.key();
        this.keyNames = keyNames;
        this.fields = fields;
    }

    /**
     * For a table.
     *
     * @return empty if the place of a value depends on others of its record
     */
    static Optional<RawRecords> of(LoadTable table, List<ColumnCells> cells) {
        List<String[]> paths = table.paths();
        List<Integer> key = table.key();
        List<Integer> columns = new ArrayList<>();
        for (int column = 0; column < paths.size(); column++) {
            if (!key.contains(column)) {
                columns.add(column);
            }
        }
        List<byte[]> keyNames = new ArrayList<>();
        for (int column : key) {
            String[] path = paths.get(column);
            boolean isKey = path.length <= 2 && path[0].equals(KeyStats.ID);
            if (!isKey || path.length == 1 && key.size() > 1) {
                return Optional.empty();
            }
            keyNames.add(utf8(path[path.length - 1]));
        }
        return fields(paths, columns, 0).map(f -> new RawRecords(table, cells, keyNames, f));
    }

    private static Optional<List<Field>> fields(List<String[]> paths, List<Integer> columns, int depth) {
        List<Field> fields = new ArrayList<>();
        Set<String> names = new HashSet<>();
        int at = 0;
        while (at < columns.size()) {
            String[] path = paths.get(columns.get(at));
            String name = path[depth];
            int end = at;
            while (end < columns.size() && paths.get(columns.get(end))[depth].equals(name)) {
                end++;
            }
            List<Integer> same = columns.subList(at, end);
            boolean isObject = same.stream().allMatch(c -> paths.get(c).length > depth + 1);
            if (!names.add(name)
                    || depth == 0 && name.equals(KeyStats.ID)
                    || !isObject && same.size() > 1
                    || depth > DEEPEST) {
                return Optional.empty();
            }
            Optional<List<Field>> inner = isObject ? fields(paths, same, depth + 1) : Optional.of(List.of());
            if (inner.isEmpty()) {
                return Optional.empty();
            }
            fields.add(new Field(utf8(name), isObject ? -1 : columns.get(at), inner.get()));
            at = end;
        }
        return Optional.of(fields);
    }

    private static byte[] utf8(String name) {
        return name.getBytes(StandardCharsets.UTF_8);
    }

    @Override
    public RawBsonDocument document(Records batch, int row, ObjectId generated) {
        out.clear();
        int start = out.begin();
        int id = out.name(ID);
        if (key.isEmpty()) {
            out.id(generated);
            out.type(id, BsonType.OBJECT_ID);
        } else if (Arrays.equals(keyNames.get(0), ID)) {
            out.type(id, part(batch, row, key.get(0)));
        } else {
            int parts = out.begin();
            for (int i = 0; i < key.size(); i++) {
                int name = out.name(keyNames.get(i));
                out.type(name, part(batch, row, key.get(i)));
            }
            out.end(parts);
            out.type(id, BsonType.DOCUMENT);
        }
        fields(fields, true, batch, row);
        out.end(start);
        return new RawBsonDocument(out.copy());
    }

    private BsonType part(Records batch, int row, int column) {
        if (batch.isNull(row, column)) {
            throw table.bad(batch, row, column, "isn't allowed in a key of documents");
        }
        BsonType type = value(batch, row, column);
        if (type == BsonType.ARRAY) {
            throw table.bad(batch, row, column, "is a list, and a key of documents can't be");
        }
        return type;
    }

    /** Writes fields; false if none of them is there. */
    private boolean fields(List<Field> all, boolean outermost, Records batch, int row) {
        boolean any = false;
        for (Field field : all) {
            int before = out.size();
            int name = out.name(field.name());
            if (field.column() < 0) {
                int inner = out.begin();
                if (fields(field.inner(), false, batch, row)) {
                    out.end(inner);
                    out.type(name, BsonType.DOCUMENT);
                    any = true;
                } else {
                    // an object of which nothing is there isn't there itself
                    out.cut(before);
                }
            } else if (!batch.isNull(row, field.column())) {
                out.type(name, value(batch, row, field.column()));
                any = true;
            } else if (table.writesNulls()
                    && outermost
                    && cells.get(field.column()).held() != Held.JSON) {
                out.type(name, BsonType.NULL);
                any = true;
            } else {
                out.cut(before);
            }
        }
        return any;
    }

    private BsonType value(Records batch, int row, int column) {
        try {
            return out.add(cells.get(column), batch, row, column);
        } catch (InvalidValueException e) {
            throw table.bad(batch, row, column, String.valueOf(e.getMessage()));
        }
    }
}
