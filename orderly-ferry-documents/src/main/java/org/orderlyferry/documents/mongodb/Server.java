package org.orderlyferry.documents.mongodb;

import com.mongodb.ClientSessionOptions;
import com.mongodb.MongoClientSettings;
import com.mongodb.MongoCursorNotFoundException;
import com.mongodb.MongoException;
import com.mongodb.MongoInterruptedException;
import com.mongodb.MongoNodeIsRecoveringException;
import com.mongodb.MongoNotPrimaryException;
import com.mongodb.MongoSecurityException;
import com.mongodb.MongoSocketException;
import com.mongodb.MongoTimeoutException;
import com.mongodb.WriteConcern;
import com.mongodb.client.ClientSession;
import com.mongodb.client.FindIterable;
import com.mongodb.client.MongoClient;
import com.mongodb.client.MongoClients;
import com.mongodb.client.MongoCollection;
import com.mongodb.client.MongoDatabase;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonSerializationException;
import org.bson.BsonString;
import org.bson.RawBsonDocument;
import org.bson.conversions.Bson;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A server and the one database of it that is worked with. What it can do is asked of it by trying, never told from its version.
 * Safe for use by several threads, but for reading as of one moment.
 */
final class Server implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(Server.class);
    private static final int SECONDS_TO_FIND = 15;
    /** What a server sends at once: about so many bytes, and between so many documents. */
    private static final long BYTES_TOGETHER = 1_000_000;

    private static final int MIN_TOGETHER = 10;
    private static final int MAX_TOGETHER = 5_000;
    private static final int DENIED = 13;
    private static final int SNAPSHOT_GONE = 239;

    private final StoreAddress address;
    private final Secrets secrets;
    private final MongoClientSettings settings;
    private final @Nullable ClientSession moment;
    private final Map<String, Integer> together = new ConcurrentHashMap<>();
    private volatile MongoClient client;
    private volatile boolean stopped;
    private volatile boolean resumed;

    private Server(
            StoreAddress address,
            Secrets secrets,
            MongoClientSettings settings,
            MongoClient client,
            @Nullable ClientSession moment) {
        this.address = address;
        this.secrets = secrets;
        this.settings = settings;
        this.client = client;
        this.moment = moment;
    }

    /**
     * Opens a way to a server.
     *
     * @throws PlaceException if there is none, or it lets nobody in
     */
    static Server open(StoreAddress address, Secrets secrets, boolean write) {
        MongoClientSettings.Builder settings = MongoClientSettings.builder();
        if (address.connection().getServerSelectionTimeout() == null) {
            settings.applyToClusterSettings(c -> c.serverSelectionTimeout(SECONDS_TO_FIND, TimeUnit.SECONDS));
        }
        if (address.connection().getWriteConcern() == null) {
            // what is told to be in is to stay in, also where the first server fails
            settings.writeConcern(WriteConcern.MAJORITY);
        }
        settings.applyConnectionString(address.connection());
        MongoClientSettings built = settings.build();
        MongoClient client = null;
        try {
            client = MongoClients.create(built);
            MongoDatabase database = client.getDatabase(address.database().orElse("admin"));
            database.runCommand(new BsonDocument("ping", new BsonInt32(1)));
            boolean one = !write && address.oneMoment() && address.database().isPresent();
            return new Server(address, secrets, built, client, one ? moment(client, database) : null);
        } catch (MongoException | IllegalArgumentException e) {
            String why = e instanceof MongoSecurityException refused
                    ? refused(refused, secrets)
                    : e instanceof MongoTimeoutException && client != null ? silent(client) : "";
            if (client != null) {
                client.close();
            }
            throw why.isEmpty()
                    ? failed(address, secrets, "can't be opened", e)
                    : new PlaceException(
                            address.shown(), "can't be opened: " + PlaceAddress.masked(secrets.strikeOut(why)), e);
        }
    }

    /** Who isn't let in, and what the server says to it. */
    private static String refused(MongoSecurityException e, Secrets secrets) {
        return "the server doesn't let in user " + e.getCredential().getUserName()
                + (e.getCause() instanceof MongoException why ? ": " + said(secrets, why) : "");
    }

    /** Which servers were looked for, and why none of them answers: the driver's own words are those of a program. */
    private static String silent(MongoClient client) {
        return client.getClusterDescription().getServerDescriptions().stream()
                .map(server -> {
                    Throwable why = server.getException();
                    while (why != null && why.getCause() != null) {
                        why = why.getCause();
                    }
                    return server.getAddress() + " doesn't answer" + (why == null ? "" : ": " + why.getMessage());
                })
                .collect(Collectors.joining("; "));
    }

    /** A session that sees all as of one moment; null where the server has none, which it says itself when it is asked. */
    private static @Nullable ClientSession moment(MongoClient client, MongoDatabase database) {
        ClientSession session = null;
        try {
            session = client.startSession(
                    ClientSessionOptions.builder().snapshot(true).build());
            database.getCollection("ferry_moment", BsonDocument.class)
                    .find(session)
                    .limit(1)
                    .first();
            return session;
        } catch (MongoException e) {
            LOG.debug("{} reads no snapshots", database.getName(), e);
            if (session != null) {
                session.close();
            }
            return null;
        }
    }

    /** Whether all is read as of one moment. */
    boolean isOfOneMoment() {
        return moment != null;
    }

    /** The names of databases that aren't the server's own. */
    List<String> databases() {
        return work("its databases can't be listed", () -> {
            List<String> names = new ArrayList<>();
            client.listDatabaseNames().into(names);
            names.removeAll(List.of("admin", "config", "local"));
            names.sort(null);
            return names;
        });
    }

    /** The database. */
    MongoDatabase database() {
        return client.getDatabase(address.database().orElseThrow());
    }

    /** Runs a command, as the system's manual has them. */
    BsonDocument command(BsonDocument command) {
        return database().runCommand(command, BsonDocument.class);
    }

    /** Answers a command; empty where the server doesn't know it, or doesn't let it be run. */
    Optional<BsonDocument> asked(BsonDocument command) {
        try {
            return Optional.of(command(command));
        } catch (MongoException e) {
            LOG.debug("{} isn't answered", command.getFirstKey(), e);
            return Optional.empty();
        }
    }

    /** Documents as their bytes. */
    MongoCollection<RawBsonDocument> collection(String name) {
        return database().getCollection(name, RawBsonDocument.class);
    }

    /** Reads documents, as of the one moment where there is one. */
    FindIterable<RawBsonDocument> find(String name, Bson filter) {
        return (moment == null
                        ? collection(name).find(filter)
                        : collection(name).find(moment, filter))
                .batchSize(together.computeIfAbsent(name, this::together));
    }

    /**
     * How many documents the server is to send at once: a server that isn't asked sends as many as its protocol lets it, or more, and does
     * nothing while these are worked with.
     */
    private int together(String collection) {
        long each = asked(new BsonDocument("collStats", new BsonString(collection)))
                .filter(s -> s.isNumber("size") && s.isNumber("count"))
                .map(s -> s.getNumber("size").longValue()
                        / Math.max(1, s.getNumber("count").longValue()))
                .orElse(BYTES_TOGETHER / 1000);
        return (int) Math.max(MIN_TOGETHER, Math.min(MAX_TOGETHER, BYTES_TOGETHER / Math.max(1, each)));
    }

    /** The names of all collections and views. */
    Set<String> names() {
        return database().listCollectionNames().into(new HashSet<>());
    }

    /** Takes collections away; those that aren't there are passed over, and the server doesn't hear of them. */
    void drop(Collection<String> names) {
        Set<String> there = names();
        names.stream().filter(there::contains).forEach(n -> collection(n).drop());
    }

    /** Counts documents, as of the one moment where there is one. */
    long count(String name) {
        BsonDocument all = new BsonDocument();
        return moment == null
                ? collection(name).countDocuments(all)
                : collection(name).countDocuments(moment, all);
    }

    /** Where it is, for people. */
    String shown() {
        return address.shown();
    }

    /**
     * Does something that the server takes part in.
     *
     * @param failing what it means if it fails
     * @throws PlaceException if it does
     */
    <T> T work(String failing, Supplier<T> work) {
        try {
            return work.get();
        } catch (MongoInterruptedException e) {
            throw new StoppedException();
        } catch (MongoException | BsonSerializationException e) {
            throw failed(failing, e);
        } catch (IllegalStateException e) {
            if (stopped) {
                throw failed(failing, e);
            }
            throw e;
        }
    }

    /** What a failure of the driver's means for a person. */
    PlaceException failed(String failing, RuntimeException e) {
        return failed(address, secrets, failing, e);
    }

    /** What the server says, as a person may read it. */
    String said(Exception e) {
        return said(secrets, e);
    }

    private static String said(Secrets secrets, Exception e) {
        String text = String.valueOf(e.getMessage());
        // the driver puts what it knows of the cluster behind the reason
        int end = text.indexOf(" on server ");
        return PlaceAddress.masked(secrets.strikeOut(end > 0 ? text.substring(0, end) : text));
    }

    private static PlaceException failed(StoreAddress address, Secrets secrets, String failing, RuntimeException e) {
        String advice = e instanceof MongoException m && m.getCode() == SNAPSHOT_GONE
                ? "; the server keeps one moment only for so long (minSnapshotHistoryWindowInSeconds): moment=each in the"
                        + " address reads each table as of its own"
                : "";
        boolean denied = e instanceof MongoException m && m.getCode() == DENIED;
        boolean lost = e instanceof MongoSocketException
                || e instanceof MongoNotPrimaryException
                || e instanceof MongoNodeIsRecoveringException
                || e instanceof MongoCursorNotFoundException;
        return new PlaceException(address.shown(), failing + ": " + said(secrets, e) + advice, denied, lost, e);
    }

    /** Ends what is waited for; nothing can be asked any more, until it is {@linkplain #resume resumed}. */
    void stop() {
        stopped = true;
        client.close();
    }

    /** Goes on after it was stopped: what was done has to be put back. */
    synchronized void resume() {
        if (stopped && !resumed) {
            resumed = true;
            client = MongoClients.create(settings);
        }
    }

    @Override
    public void close() {
        if (moment != null) {
            moment.close();
        }
        client.close();
    }
}
