package org.orderlyferry.documents.mongodb;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.bson.BsonDocument;
import org.bson.BsonValue;
import org.bson.RawBsonDocument;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.progress.PiecesAhead;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.apart.Apart;
import org.orderlyferry.record.text.InvalidValueException;

/** Gives the records of one table of documents that are taken apart: those of the documents, or of a list in them. */
final class PartsReader extends DocumentReader {

    private final Apart<BsonValue> apart = new Apart<>(new BsonNesting(), KeyStats.ID, false);
    private final String list;
    private final Set<String> unread;
    private final boolean keyless;
    private final boolean keyOfParts;

    /**
     * A reader; see {@link DocumentReader}.
     *
     * @param list the path of the list whose elements are wanted; empty for the documents
     */
    PartsReader(
            Server server,
            PiecesAhead<RawBsonDocument> documents,
            TableDefinition table,
            List<String> columns,
            Set<String> unread,
            String list,
            Rejects rejects) {
        super(server, documents, table, columns, unread, rejects);
        this.list = list;
        this.unread = unread;
        this.keyOfParts = list.isEmpty()
                && place(KeyStats.ID) == null
                && table.columnNames().stream().anyMatch(n -> n.startsWith(KeyStats.ID + "."));
        this.keyless = list.isEmpty() && place(KeyStats.ID) == null && !keyOfParts;
    }

    @Override
    void records(RawBsonDocument document, RecordBatch batch) {
        List<Apart.Part<BsonValue>> parts = apart.parts(Documents.decoded(document), null, number());
        for (Apart.Part<BsonValue> part : parts) {
            if (part.list().equals(list)) {
                begin();
                if (record(part)) {
                    end(batch);
                }
            }
        }
    }

    private boolean record(Apart.Part<BsonValue> part) {
        for (Map.Entry<String, BsonValue> field : fields(part)) {
            String column = field.getKey().isEmpty() ? " " : field.getKey();
            Integer place = place(column);
            if (place == null) {
                unknown("", field.getKey());
                return false;
            }
            try {
                if (place >= 0) {
                    take(place, cells(place).read(Documents.reader(field.getValue())));
                }
            } catch (InvalidValueException e) {
                wrong(column, Documents.shown(Documents.reader(field.getValue())), e);
                return false;
            }
        }
        return true;
    }

    /** The fields with the id as it is in the table. */
    private List<Map.Entry<String, BsonValue>> fields(Apart.Part<BsonValue> part) {
        List<Map.Entry<String, BsonValue>> fields = new ArrayList<>();
        for (Map.Entry<String, BsonValue> field : part.fields()) {
            boolean id = list.isEmpty() && field.getKey().equals(KeyStats.ID);
            if (id && keyOfParts && field.getValue() instanceof BsonDocument parts) {
                parts.forEach((name, value) -> fields.add(Map.entry(KeyStats.ID + "." + name, value)));
            } else if (!(id && keyless) && !unread.contains(field.getKey())) {
                fields.add(field);
            }
        }
        return fields;
    }
}
