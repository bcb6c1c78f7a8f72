package org.orderlyferry.documents.mongodb;

import com.mongodb.client.MongoCursor;
import java.util.Iterator;
import org.bson.RawBsonDocument;
import org.orderlyferry.progress.PiecesAhead;

/**
 * The documents of a cursor, asked for on a thread of its own: while some are worked with, the server makes the next ones ready. For one
 * thread that takes.
 */
final class DocumentsAhead implements Iterator<RawBsonDocument>, AutoCloseable {

    /** One document may have 16 MB. */
    private static final PiecesAhead.Bounds BOUNDS = new PiecesAhead.Bounds(256, 512 * 1024);

    private final MongoCursor<RawBsonDocument> cursor;
    private final PiecesAhead<RawBsonDocument> ahead;

    /** Begins to read; the cursor is closed with it. */
    DocumentsAhead(MongoCursor<RawBsonDocument> cursor) {
        this.cursor = cursor;
        this.ahead = new PiecesAhead<>("ferry-documents-ahead", cursor, Batches::size, BOUNDS);
    }

    @Override
    public boolean hasNext() {
        return ahead.hasNext();
    }

    @Override
    public RawBsonDocument next() {
        return ahead.next();
    }

    @Override
    public void close() {
        ahead.close();
        cursor.close();
    }
}
