package org.orderlyferry.documents.mongodb;

import java.util.List;
import org.bson.BsonDocument;
import org.bson.BsonNull;
import org.bson.BsonObjectId;
import org.bson.BsonValue;
import org.bson.RawBsonDocument;
import org.bson.codecs.BsonDocumentCodec;
import org.bson.types.ObjectId;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.documents.bson.ColumnCells;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.apart.Apart;
import org.orderlyferry.record.text.InvalidValueException;

/** Makes documents, or what becomes elements of lists, where a value's place may depend on others of its record. */
final class ValueRecords implements DocumentMaker {

    private static final BsonDocumentCodec CODEC = new BsonDocumentCodec();

    private final LoadTable table;
    private final TableDefinition source;
    private final List<ColumnCells> cells;

    ValueRecords(LoadTable table, List<ColumnCells> cells) {
        this.table = table;
        this.source = table.source();
        this.cells = cells;
    }

    @Override
    public RawBsonDocument document(Records batch, int row, ObjectId generated) {
        return new RawBsonDocument(values(batch, row, generated), CODEC);
    }

    private BsonDocument values(Records batch, int row, ObjectId generated) {
        BsonDocument document = new BsonDocument(Math.max(16, source.columns().size() * 2));
        if (table.list().isPresent()) {
            return element(table.list().get(), document, batch, row, generated);
        }
        document.append(KeyStats.ID, table.key().isEmpty() ? new BsonObjectId(generated) : id(batch, row));
        for (int column = 0; column < source.columns().size(); column++) {
            if (!table.key().contains(column)) {
                put(document, column, value(batch, row, column), batch, row);
            }
        }
        return document;
    }

    /** The id of a record that has a key. */
    BsonValue id(Records batch, int row) {
        BsonDocument parts = new BsonDocument();
        for (int column : table.key()) {
            BsonValue value = value(batch, row, column);
            if (value == null) {
                throw table.bad(batch, row, column, "isn't allowed in a key of documents");
            } else if (value.isArray()) {
                throw table.bad(batch, row, column, "is a list, and a key of documents can't be");
            }
            String name = table.target().columns().get(column).name();
            if (name.equals(KeyStats.ID)) {
                return value;
            }
            parts.append(name.substring(KeyStats.ID.length() + 1), value);
        }
        return parts;
    }

    private BsonDocument element(ListTable of, BsonDocument staged, Records batch, int row, ObjectId generated) {
        BsonValue parent = value(batch, row, of.parent());
        if (parent == null) {
            throw table.bad(batch, row, of.parent(), "leaves open in which document of the other table the record is");
        }
        staged.append(KeyStats.ID, new BsonObjectId(generated)).append(Lists.PARENT, parent);
        if (of.place() >= 0) {
            BsonValue place = value(batch, row, of.place());
            if (place == null) {
                throw table.bad(batch, row, of.place(), "leaves the record no place in its list");
            }
            staged.append(Lists.PLACE, place);
        }
        BsonDocument fields = new BsonDocument();
        BsonValue single = null;
        boolean hasSingle = false;
        for (int column = 0; column < source.columns().size(); column++) {
            if (column == of.parent() || column == of.place()) {
                continue;
            }
            BsonValue value = value(batch, row, column);
            if (of.place() >= 0 && source.columns().get(column).name().equals(Apart.VALUE)) {
                single = value;
                hasSingle = true;
            } else {
                put(fields, column, value, batch, row);
            }
        }
        boolean nothing = fields.values().stream().allMatch(BsonValue::isNull);
        return staged.append(
                Lists.ELEMENT,
                hasSingle && (single != null || nothing) ? (single == null ? BsonNull.VALUE : single) : fields);
    }

    private void put(BsonDocument document, int column, @Nullable BsonValue value, Records batch, int row) {
        String[] path = table.paths().get(column);
        if (value == null) {
            // an object of which nothing is there isn't there itself
            if (table.writesNulls()
                    && path.length == 1
                    && cells.get(column).held() != Held.JSON
                    && !document.containsKey(path[0])) {
                document.append(path[0], BsonNull.VALUE);
            }
            return;
        }
        BsonDocument at = document;
        for (int i = 0; i < path.length - 1; i++) {
            BsonValue inner = at.get(path[i]);
            if (inner == null || inner.isNull()) {
                inner = new BsonDocument();
                at.put(path[i], inner);
            } else if (!inner.isDocument()) {
                throw table.bad(batch, row, column, "has no place, since " + path[i] + " is a value by itself");
            }
            at = inner.asDocument();
        }
        String name = path[path.length - 1];
        BsonValue there = at.get(name);
        if (there != null && !there.isNull()) {
            throw table.bad(batch, row, column, "has no place, since its name is that of an object");
        }
        at.put(name, value);
    }

    private @Nullable BsonValue value(Records batch, int row, int column) {
        if (batch.isNull(row, column)) {
            return null;
        }
        try {
            return cells.get(column).written(batch, row, column);
        } catch (InvalidValueException e) {
            throw table.bad(batch, row, column, String.valueOf(e.getMessage()));
        }
    }
}
