package org.orderlyferry.documents.mongodb;

import com.mongodb.client.FindIterable;
import com.mongodb.client.MongoCursor;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.bson.BsonDocument;
import org.bson.RawBsonDocument;

/** Documents so many at a time, and no more bytes at a time than are held anyway. */
final class Batches {

    private static final int MOST_DOCUMENTS = 500;
    private static final long MOST_BYTES = 4_000_000;

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

    /** How many bytes a document has. */
    static int size(RawBsonDocument document) {
        return document.getByteBuffer().remaining();
    }

    /** Whether so many bytes are as many as are to be held. */
    static boolean isFull(long bytes) {
        return bytes >= MOST_BYTES;
    }
}
