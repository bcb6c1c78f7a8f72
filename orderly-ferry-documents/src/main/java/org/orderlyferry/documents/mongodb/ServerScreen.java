package org.orderlyferry.documents.mongodb;

import com.mongodb.MongoBulkWriteException;
import com.mongodb.bulk.BulkWriteError;
import com.mongodb.client.MongoCollection;
import com.mongodb.client.model.InsertManyOptions;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonValue;
import org.bson.RawBsonDocument;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.Screen;

/**
 * Writes records as documents to where they wait, and takes those out that the server won't have, with what it says of each: a key
 * that is there already, by whichever came first; what a validator doesn't take. For one thread.
 */
final class ServerScreen implements Screen {

    private static final int MOST_DOCUMENTS = 1_000;
    private static final InsertManyOptions UNORDERED = new InsertManyOptions().ordered(false);

    private final Server server;
    private final LoadTable table;
    private final DocumentWriter numbering;
    private final boolean added;
    private final DocumentMaker maker;
    private final MongoCollection<RawBsonDocument> collection;

    /**
     * A screen for one part.
     *
     * @param numbering gives records their ids where they have no key
     * @param added whether they come to others that are there, whose ids are taken
     */
    ServerScreen(Server server, LoadTable table, DocumentWriter numbering, boolean added) {
        this.server = server;
        this.table = table;
        this.numbering = numbering;
        this.added = added;
        this.maker = table.maker();
        this.collection = server.database().getCollection(table.part().incoming(), RawBsonDocument.class);
    }

    @Override
    public void screen(RecordBatch batch, Rejects rejects) {
        boolean[] unwanted = new boolean[batch.rows()];
        boolean any = false;
        List<RawBsonDocument> documents = new ArrayList<>();
        List<Integer> rows = new ArrayList<>();
        for (int row = 0; row < unwanted.length; row++) {
            try {
                documents.add(maker.document(batch, row, numbering.nextId()));
                rows.add(row);
            } catch (BadValueException e) {
                rejects.reject(e);
                unwanted[row] = true;
                any = true;
            }
            if (documents.size() == MOST_DOCUMENTS || row == unwanted.length - 1) {
                any |= send(batch, documents, rows, unwanted, rejects);
                documents.clear();
                rows.clear();
            }
        }
        if (any) {
            batch.removeRows(unwanted);
        }
    }

    private boolean send(
            RecordBatch batch,
            List<RawBsonDocument> documents,
            List<Integer> rows,
            boolean[] unwanted,
            Rejects rejects) {
        boolean any = added && taken(batch, documents, rows, unwanted, rejects);
        if (documents.isEmpty()) {
            return any;
        }
        return any
                | server.work("documents of " + table.target().name() + " can't be written", () -> {
                    try {
                        collection.insertMany(documents, UNORDERED);
                        return false;
                    } catch (MongoBulkWriteException e) {
                        if (e.getWriteErrors().isEmpty()) {
                            throw e;
                        }
                        for (BulkWriteError error : e.getWriteErrors()) {
                            int row = rows.get(error.getIndex());
                            unwanted[row] = true;
                            rejects.reject(refused(
                                    batch,
                                    row,
                                    Refusal.reason(
                                            error,
                                            table.part().incoming(),
                                            table.part().name())));
                        }
                        return true;
                    }
                });
    }

    /** Takes out those whose ids are taken where they are to be added. */
    private boolean taken(
            RecordBatch batch,
            List<RawBsonDocument> documents,
            List<Integer> rows,
            boolean[] unwanted,
            Rejects rejects) {
        Set<BsonValue> there = new HashSet<>();
        BsonArray ids = new BsonArray(documents.stream().map(Documents::id).toList());
        server.work("ids of " + table.target().name() + " can't be looked up", () -> {
            server.collection(table.part().name())
                    .find(new BsonDocument(KeyStats.ID, new BsonDocument("$in", ids)))
                    .projection(new BsonDocument(KeyStats.ID, new org.bson.BsonInt32(1)))
                    .forEach(d -> there.add(Documents.decoded(d).get(KeyStats.ID)));
            return null;
        });
        boolean any = false;
        for (int i = documents.size() - 1; i >= 0 && !there.isEmpty(); i--) {
            if (there.contains(Documents.id(documents.get(i)))) {
                unwanted[rows.get(i)] = true;
                rejects.reject(refused(batch, rows.get(i), "a document of this key is there already"));
                documents.remove(i);
                rows.remove(i);
                any = true;
            }
        }
        return any;
    }

    private BadRecordException refused(RecordBatch batch, int row, String reason) {
        return new BadRecordException(
                batch.origin(row), table.target().name().toString(), table.shownKey(batch, row), reason, null);
    }
}
