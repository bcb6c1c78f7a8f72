package org.orderlyferry.documents.mongodb;

import java.nio.charset.StandardCharsets;
import java.util.List;
import org.bson.BsonType;
import org.bson.RawBsonDocument;
import org.bson.types.ObjectId;
import org.orderlyferry.documents.bson.ColumnCells;
import org.orderlyferry.documents.bson.RawFields;
import org.orderlyferry.documents.bson.RawValues;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;

/** Makes documents of records that hold them as they are. */
final class WholeRecords implements DocumentMaker {

    private static final byte[] ID = KeyStats.ID.getBytes(StandardCharsets.US_ASCII);

    private final RawValues out = new RawValues();
    private final RawValues id = new RawValues();
    private final LoadTable table;
    private final List<ColumnCells> cells;
    private final ValueRecords ids;

    WholeRecords(LoadTable table, List<ColumnCells> cells, ValueRecords ids) {
        this.table = table;
        this.cells = cells;
        this.ids = ids;
    }

    @Override
    public RawBsonDocument document(Records batch, int row, ObjectId generated) {
        out.clear();
        if (batch.isNull(row, table.whole()) || add(out, batch, row, table.whole()) != BsonType.DOCUMENT) {
            throw table.bad(batch, row, table.whole(), "is no document");
        }
        RawBsonDocument document = new RawBsonDocument(out.copy());
        if (!table.key().isEmpty() && !hasItsId(document, batch, row)) {
            throw table.bad(batch, row, table.key().get(0), "isn't the " + KeyStats.ID + " of the document");
        }
        return document;
    }

    /** Whether the columns of the key are the document's id. Mostly it is of one column, and its bytes are the same. */
    private boolean hasItsId(RawBsonDocument document, Records batch, int row) {
        int first = table.key().get(0);
        if (table.key().size() == 1 && !batch.isNull(row, first)) {
            id.clear();
            int start = id.begin();
            int name = id.name(ID);
            id.type(name, add(id, batch, row, first));
            id.end(start);
            RawFields key = new RawFields(new RawBsonDocument(id.copy()));
            RawFields fields = new RawFields(document);
            if (key.next() && fields.next() && fields.isNamed(ID) && fields.isSame(key)) {
                return true;
            }
        }
        return ids.id(batch, row).equals(Documents.id(document));
    }

    private BsonType add(RawValues to, Records batch, int row, int column) {
        try {
            return to.add(cells.get(column), batch, row, column);
        } catch (InvalidValueException e) {
            throw table.bad(batch, row, column, String.valueOf(e.getMessage()));
        }
    }
}
