package org.orderlyferry.documents.mongodb;

import com.mongodb.MongoBulkWriteException;
import com.mongodb.MongoWriteException;
import com.mongodb.bulk.BulkWriteError;
import com.mongodb.client.MongoCollection;
import com.mongodb.client.model.InsertManyOptions;
import java.util.ArrayList;
import java.util.List;
import org.bson.BsonDocument;
import org.bson.RawBsonDocument;
import org.bson.types.ObjectId;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.progress.SideThread;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;

/** Writes records as documents to where they wait, so many at a time; the next are made while some are on their way. */
final class DocumentWriter implements RecordWriter {

    private static final int MOST_DOCUMENTS = 1000;
    private static final long MOST_BYTES = 4_000_000;

    /** Order doesn't matter: the first that is refused ends the load. */
    private static final InsertManyOptions UNORDERED = new InsertManyOptions().ordered(false);

    private final Server server;
    private final LoadTable table;
    private final MongoCollection<RawBsonDocument> collection;
    private final DocumentMaker maker;
    private final boolean again;
    private final int load;
    private final int task;
    private int row;
    private Some made = new Some();
    private @Nullable SideThread sending;
    /** Whether somebody else has written what comes here. */
    private boolean written;

    /** Documents that are sent together, each with where its record came from and how it is told of. */
    private static final class Some {
        private final List<RawBsonDocument> documents = new ArrayList<>(MOST_DOCUMENTS);
        private final List<Origin> origins = new ArrayList<>(MOST_DOCUMENTS);
        private final List<String> keys = new ArrayList<>(MOST_DOCUMENTS);
        private long bytes;

        private boolean isFull() {
            return documents.size() == MOST_DOCUMENTS || bytes >= MOST_BYTES;
        }
    }

    /**
     * A writer.
     *
     * @param again whether an earlier writer of the same slice may have left some of the documents
     * @param load which load of the collection it is, for ids of records that have no key
     */
    DocumentWriter(Server server, LoadTable table, boolean again, int load, int task) {
        this.server = server;
        this.table = table;
        this.collection = server.database().getCollection(table.part().incoming(), RawBsonDocument.class);
        this.maker = table.maker();
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
            made.documents.add(maker.document(batch, i, nextId()));
            made.origins.add(batch.origin(i));
            made.keys.add(table.shownKey(batch, i));
            made.bytes += each;
            if (made.isFull()) {
                send();
            }
        }
    }

    /** Sends what was made, once what was sent before has arrived: one piece is on its way, and no more. */
    private void send() {
        arrived();
        if (!made.documents.isEmpty()) {
            Some whole = made;
            made = new Some();
            sending = SideThread.start("ferry-documents-sent", () -> send(whole));
        }
    }

    /** Waits until what was sent is there. */
    private void arrived() {
        SideThread sent = sending;
        if (sent != null) {
            sending = null;
            sent.await();
            sent.rethrow();
        }
    }

    private void send(Some some) {
        server.work("documents of " + table.target().name() + " can't be written", () -> {
            try {
                if (again) {
                    collection
                            .withDocumentClass(BsonDocument.class)
                            .bulkWrite(some.documents.stream()
                                    .flatMap(d -> Placing.replacing(d).stream())
                                    .toList());
                } else {
                    collection.insertMany(some.documents, UNORDERED);
                }
                return null;
            } catch (MongoBulkWriteException e) {
                throw refused(some, e);
            }
        });
    }

    private RuntimeException refused(Some some, MongoBulkWriteException e) {
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
                some.origins.get(first.getIndex()),
                table.target().name().toString(),
                some.keys.get(first.getIndex()),
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
        arrived();
    }

    /** Nothing is on its way any more behind this, whatever became of it. */
    @Override
    public void close() {
        if (sending != null) {
            sending.await();
        }
    }
}
