package org.orderlyferry.documents.mongodb;

import com.mongodb.MongoBulkWriteException;
import com.mongodb.MongoWriteException;
import com.mongodb.bulk.BulkWriteError;
import com.mongodb.client.MongoCollection;
import com.mongodb.client.model.InsertManyOptions;
import java.util.ArrayList;
import java.util.List;
import org.bson.BsonDocument;
import org.bson.types.ObjectId;
import org.orderlyferry.documents.bson.ColumnCells;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;

/** Writes records as documents to where they wait, so many at a time. */
final class DocumentWriter implements RecordWriter {

    private static final int MOST_DOCUMENTS = 1000;
    private static final long MOST_BYTES = 4_000_000;

    /** Order doesn't matter: the first that is refused ends the load. */
    private static final InsertManyOptions UNORDERED = new InsertManyOptions().ordered(false);

    private final Server server;
    private final LoadTable table;
    private final MongoCollection<BsonDocument> collection;
    private final List<ColumnCells> cells;
    private final List<BsonDocument> documents = new ArrayList<>();
    private final List<Origin> origins = new ArrayList<>();
    private final List<String> keys = new ArrayList<>();
    private final boolean again;
    private final int load;
    private final int task;
    private int row;
    private long bytes;
    /** Whether somebody else has written what comes here. */
    private boolean written;

    /**
     * A writer.
     *
     * @param again whether an earlier writer of the same slice may have left some of the documents
     * @param load which load of the collection it is, for ids of records that have no key
     */
    DocumentWriter(Server server, LoadTable table, boolean again, int load, int task) {
        this.server = server;
        this.table = table;
        this.collection = server.database().getCollection(table.part().incoming(), BsonDocument.class);
        this.cells = table.cells();
        this.again = again;
        this.load = load;
        this.task = task;
    }

    /** Passes over all that comes, since it is there. */
    void isWrittenBefore() {
        written = true;
    }

    @Override
    public void write(RecordBatch batch) {
        if (written) {
            return;
        }
        long each = batch.rows() == 0 ? 0 : batch.valueBytes() / batch.rows() + 1;
        for (int i = 0; i < batch.rows(); i++) {
            documents.add(table.document(cells, batch, i, nextId()));
            origins.add(batch.origin(i));
            keys.add(table.shownKey(batch, i));
            bytes += each;
            if (documents.size() == MOST_DOCUMENTS || bytes >= MOST_BYTES) {
                send();
            }
        }
    }

    private void send() {
        if (documents.isEmpty()) {
            return;
        }
        server.work("documents of " + table.target().name() + " can't be written", () -> {
            try {
                if (again) {
                    collection.bulkWrite(documents.stream()
                            .flatMap(d -> Placing.replacing(d).stream())
                            .toList());
                } else {
                    collection.insertMany(documents, UNORDERED);
                }
                return null;
            } catch (MongoBulkWriteException e) {
                throw refused(e);
            }
        });
        documents.clear();
        origins.clear();
        keys.clear();
        bytes = 0;
    }

    private RuntimeException refused(MongoBulkWriteException e) {
        if (e.getWriteErrors().isEmpty()) {
            return e;
        }
        BulkWriteError first = e.getWriteErrors().get(0);
        if (again) {
            return new PlaceException(
                    server.shown(),
                    "documents of " + table.target().name() + " are refused: "
                            + Refusal.reason(
                                    first, table.part().incoming(), table.part().name()),
                    e);
        }
        return new BadRecordException(
                origins.get(first.getIndex()),
                table.target().name().toString(),
                keys.get(first.getIndex()),
                Refusal.reason(first, table.part().incoming(), table.part().name()),
                new MongoWriteException(first, e.getServerAddress(), e.getErrorLabels()));
    }

    /** The id of the part's next record, if it has no key. */
    ObjectId nextId() {
        return GeneratedId.of(load, task, row++);
    }

    @Override
    public void finish() {
        send();
    }

    @Override
    public void close() {
        documents.clear();
    }
}
