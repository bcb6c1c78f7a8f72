package org.orderlyferry.documents.mongodb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import com.mongodb.MongoException;
import com.mongodb.client.MongoCursor;
import java.util.NoSuchElementException;
import java.util.concurrent.atomic.AtomicInteger;
import org.bson.BsonBinary;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.RawBsonDocument;
import org.bson.codecs.BsonDocumentCodec;
import org.junit.jupiter.api.Test;

/** Documents that are read ahead come in their order, and no more of them than are bounded. */
class DocumentsAheadTest {

    private final AtomicInteger given = new AtomicInteger();

    /** A cursor of so many documents, and a failure behind them where there is one. */
    private MongoCursor<RawBsonDocument> cursor(int documents, int bytes, RuntimeException failure) {
        @SuppressWarnings("unchecked")
        MongoCursor<RawBsonDocument> cursor = mock(MongoCursor.class);
        when(cursor.hasNext()).thenAnswer(i -> {
            if (given.get() == documents && failure != null) {
                throw failure;
            }
            return given.get() < documents;
        });
        doAnswer(i -> new RawBsonDocument(
                        new BsonDocument("_id", new BsonInt32(given.getAndIncrement()))
                                .append("scan", new BsonBinary(new byte[bytes])),
                        new BsonDocumentCodec()))
                .when(cursor)
                .next();
        return cursor;
    }

    @Test
    void allComeInTheirOrderAndTheCursorIsClosed() {
        MongoCursor<RawBsonDocument> cursor = cursor(5_000, 10, null);
        try (DocumentsAhead documents = new DocumentsAhead(cursor)) {
            for (int i = 0; i < 5_000; i++) {
                assertThat(documents.next().getInt32("_id").getValue()).isEqualTo(i);
            }
            assertThat(documents.hasNext()).isFalse();
            assertThatThrownBy(documents::next).isInstanceOf(NoSuchElementException.class);
        }
        verify(cursor).close();
    }

    @Test
    void aFailureIsToldBehindTheDocumentsBeforeIt() {
        MongoException lost = new MongoException("the server has gone");
        try (DocumentsAhead documents = new DocumentsAhead(cursor(300, 10, lost))) {
            for (int i = 0; i < 300; i++) {
                assertThat(documents.next().getInt32("_id").getValue()).isEqualTo(i);
            }
            assertThatThrownBy(documents::hasNext).isSameAs(lost);
        }
    }

    @Test
    void ofLargeDocumentsFewAreHeldAndNobodyHasToTakeThemAll() throws InterruptedException {
        try (DocumentsAhead documents = new DocumentsAhead(cursor(1_000, 600_000, null))) {
            assertThat(documents.next().getInt32("_id").getValue()).isZero();
            Thread.sleep(100);
            assertThat(given.get()).isLessThanOrEqualTo(2);
        }
        assertThat(given.get()).isLessThan(10);
    }
}
