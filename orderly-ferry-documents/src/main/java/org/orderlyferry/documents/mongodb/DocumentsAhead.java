package org.orderlyferry.documents.mongodb;

import com.mongodb.client.MongoCursor;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Iterator;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.stream.Stream;
import org.bson.RawBsonDocument;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.progress.Ahead;
import org.orderlyferry.progress.SideThread;

/**
 * The documents of a cursor, asked for on a thread of its own: while some are worked with, the server makes the next ones ready. For one
 * thread that takes.
 */
final class DocumentsAhead implements Iterator<RawBsonDocument>, AutoCloseable {

    /** Documents that are handed over at once. */
    private static final int TOGETHER = 256;
    /** Bytes that make a piece large before it has all its documents. */
    private static final int LARGE = 512 * 1024;
    /** Pieces that may wait. */
    private static final int WAITING = 4;

    private final MongoCursor<RawBsonDocument> cursor;
    private final Ahead<List<RawBsonDocument>> ahead;
    /** What stopped the reading; told behind the documents before it. */
    private @Nullable Throwable failure;

    private @Nullable List<RawBsonDocument> piece;
    private Iterator<RawBsonDocument> current = Collections.emptyIterator();

    /** Begins to read; the cursor is closed with it. */
    DocumentsAhead(MongoCursor<RawBsonDocument> cursor) {
        this.cursor = cursor;
        List<List<RawBsonDocument>> pieces = Stream.generate(
                        () -> (List<RawBsonDocument>) new ArrayList<RawBsonDocument>(TOGETHER))
                .limit(WAITING)
                .toList();
        this.ahead = new Ahead<>("ferry-documents-ahead", pieces, this::fill, DocumentsAhead::isLarge);
    }

    private boolean fill(List<RawBsonDocument> some) {
        SideThread.rethrow(failure);
        some.clear();
        long bytes = 0;
        try {
            while (some.size() < TOGETHER && bytes < LARGE && cursor.hasNext()) {
                RawBsonDocument document = cursor.next();
                some.add(document);
                bytes += Batches.size(document);
            }
        } catch (RuntimeException | Error e) {
            failure = e;
        }
        return !some.isEmpty() || failure != null;
    }

    /** One document may have 16 MB. */
    private static boolean isLarge(List<RawBsonDocument> some) {
        return some.size() == 1 && Batches.size(some.get(0)) >= LARGE;
    }

    @Override
    public boolean hasNext() {
        while (!current.hasNext()) {
            if (piece != null) {
                ahead.giveBack(piece);
            }
            piece = ahead.take();
            if (piece == null) {
                return false;
            }
            current = piece.iterator();
        }
        return true;
    }

    @Override
    public RawBsonDocument next() {
        if (!hasNext()) {
            throw new NoSuchElementException();
        }
        return current.next();
    }

    @Override
    public void close() {
        ahead.close();
        cursor.close();
    }
}
