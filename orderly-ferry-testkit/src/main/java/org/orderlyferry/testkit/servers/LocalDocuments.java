package org.orderlyferry.testkit.servers;

import de.bwaldvogel.mongo.MongoBackend;
import de.bwaldvogel.mongo.MongoServer;
import de.bwaldvogel.mongo.backend.memory.MemoryBackend;
import java.net.InetSocketAddress;

/**
 * A server of documents of one's own, in this process and its memory, that speaks MongoDB's wire protocol: on a free port, gone
 * when it is closed. It isn't MongoDB: it has no sessions, snapshots or transactions, enforces no validators, and finds ranges
 * by reading all there is.
 */
public final class LocalDocuments implements AutoCloseable {

    private final MongoServer server;
    private final InetSocketAddress address;

    private LocalDocuments(MongoBackend backend) {
        server = new MongoServer(backend);
        address = server.bind();
    }

    /** Starts a server. */
    public static LocalDocuments start() {
        return new LocalDocuments(new MemoryBackend());
    }

    /** Starts a server that answers as a backend does. */
    public static LocalDocuments start(MongoBackend backend) {
        return new LocalDocuments(backend);
    }

    /** A database's address; it need not be there. */
    public String url(String database) {
        return "mongodb://127.0.0.1:" + address.getPort() + "/" + database;
    }

    /** Ends it at once, with all connections. */
    @Override
    public void close() {
        server.shutdownNow();
    }
}
