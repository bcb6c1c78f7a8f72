package org.orderlyferry.documents.mongodb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.AdditionalAnswers.delegatesTo;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.Mockito.CALLS_REAL_METHODS;
import static org.mockito.Mockito.atLeastOnce;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.doReturn;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.mockStatic;
import static org.mockito.Mockito.verify;

import com.mongodb.ClientSessionOptions;
import com.mongodb.MongoClientSettings;
import com.mongodb.client.ClientSession;
import com.mongodb.client.MongoClient;
import com.mongodb.client.MongoClients;
import com.mongodb.client.MongoCollection;
import com.mongodb.client.MongoDatabase;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.bson.conversions.Bson;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;
import org.mockito.MockedStatic;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.testkit.doubles.Contents;

/** A server that has sessions which see one moment, played around one that hasn't. */
class SnapshotTest extends DocumentLoadCase {

    private final ClientSession session = mock(ClientSession.class);
    private final AtomicInteger seen = new AtomicInteger();
    private final AtomicInteger unseen = new AtomicInteger();

    private MongoClient played(MongoClient real) {
        MongoClient played = mock(MongoClient.class, delegatesTo(real));
        doReturn(session).when(played).startSession(any(ClientSessionOptions.class));
        doAnswer(call -> database(real.getDatabase(call.getArgument(0))))
                .when(played)
                .getDatabase(anyString());
        return played;
    }

    private MongoDatabase database(MongoDatabase real) {
        MongoDatabase played = mock(MongoDatabase.class, delegatesTo(real));
        doAnswer(call -> {
                    MongoCollection<?> collection = real.getCollection(call.getArgument(0), call.getArgument(1));
                    // what a load notes of itself is of now
                    return List.of("sheet", "ferry_moment").contains(call.<String>getArgument(0))
                            ? collection(collection)
                            : collection;
                })
                .when(played)
                .getCollection(anyString(), any());
        return played;
    }

    @SuppressWarnings("unchecked")
    private <T> MongoCollection<T> collection(MongoCollection<T> real) {
        MongoCollection<T> played = mock(MongoCollection.class, delegatesTo(real));
        doAnswer(call -> {
                    seen.incrementAndGet();
                    return real.find();
                })
                .when(played)
                .find(session);
        doAnswer(call -> {
                    seen.incrementAndGet();
                    return real.find(call.<Bson>getArgument(1));
                })
                .when(played)
                .find(any(ClientSession.class), any(Bson.class));
        doAnswer(call -> {
                    unseen.incrementAndGet();
                    return real.find();
                })
                .when(played)
                .find();
        doAnswer(call -> {
                    unseen.incrementAndGet();
                    return real.find(call.<Bson>getArgument(0));
                })
                .when(played)
                .find(any(Bson.class));
        doAnswer(call -> {
                    seen.incrementAndGet();
                    return real.countDocuments(call.<Bson>getArgument(1));
                })
                .when(played)
                .countDocuments(any(ClientSession.class), any(Bson.class));
        return played;
    }

    @Test
    void allIsReadInOneSessionAsOfOneMoment() {
        load(sheets(0, 200, "moss"), LoadMode.CREATE);
        MongoClient real = client;
        MongoClient played = played(real);
        try (MockedStatic<MongoClients> clients = mockStatic(MongoClients.class, CALLS_REAL_METHODS)) {
            clients.when(() -> MongoClients.create(any(MongoClientSettings.class)))
                    .thenReturn(played);
            doAnswer(call -> null).when(played).close();
            try (Place place = Places.open(url(""))) {
                assertThat(Contents.of(place.read(Slice.whole(place.define(TableName.of("sheet"))))))
                        .hasSize(200);
                assertThat(place.count(TableName.of("sheet"))).isEqualTo(200);
                assertThat(place.leftBehind()).extracting(LeftBehind::kind).doesNotContain("one moment");
                assertThat(place.companions(3).places()).isEmpty();
                assertThat(place.companions(3).findings().toString())
                        .contains("a snapshot is read over one connection");
            }
            ArgumentCaptor<ClientSessionOptions> asked = ArgumentCaptor.forClass(ClientSessionOptions.class);
            verify(played, atLeastOnce()).startSession(asked.capture());
            assertThat(asked.getValue().isSnapshot()).isTrue();
            verify(session, atLeastOnce()).close();
            assertThat(seen.get()).isGreaterThan(2);
            assertThat(unseen.get()).isZero();
            try (Place each = Places.open(url("?moment=each"))) {
                assertThat(each.companions(2).places()).hasSize(2);
                assertThat(each.leftBehind()).extracting(LeftBehind::kind).contains("one moment");
            }
        }
    }
}
