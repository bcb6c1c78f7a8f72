package org.orderlyferry.documents.mongodb;

import com.mongodb.client.FindIterable;
import com.mongodb.client.MongoCursor;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.bson.BsonDocument;
import org.bson.RawBsonDocument;
import org.orderlyferry.progress.PiecesAhead;

/** Documents so many at a time, and no more bytes at a time than are held anyway. */
final class Batches {

    private static final int MOST_DOCUMENTS = 500;
    private static final long MOST_BYTES = 4_000_000;

    /** Documents and bytes that are handed over at once; one document may have 16 MB. */
    private static final PiecesAhead.Bounds AHEAD = new PiecesAhead.Bounds(256, 512 * 1024);

    private Batches() {}

    /** Hands all documents on. */
    static void each(FindIterable<RawBsonDocument> all, Consumer<List<BsonDocument>> work) {
        List<BsonDocument> documents = new ArrayList<>();
        long bytes = 0;
        try (MongoCursor<RawBsonDocument> cursor = all.iterator()) {
            while (cursor.hasNext()) {
                RawBsonDocument document = cursor.next();
                bytes += size(document);
                documents.add(Documents.decoded(document));
                if (documents.size() == MOST_DOCUMENTS || isFull(bytes)) {
                    work.accept(documents);
                    documents.clear();
                    bytes = 0;
                }
            }
        }
        if (!documents.isEmpty()) {
            work.accept(documents);
        }
    }

    /** The documents of a cursor, which is closed with them: while some are worked with, the server makes the next ones ready. */
    static PiecesAhead<RawBsonDocument> ahead(MongoCursor<RawBsonDocument> cursor) {
        return new PiecesAhead<>("ferry-documents-ahead", cursor, Batches::size, AHEAD, cursor::close);
    }

    /** How many bytes a document has. */
    static int size(RawBsonDocument document) {
        return document.getByteBuffer().remaining();
    }

    /** Whether so many bytes are as many as are to be held. */
    static boolean isFull(long bytes) {
        return bytes >= MOST_BYTES;
    }
}
