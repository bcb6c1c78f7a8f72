package org.orderlyferry.cluster.hdfs;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.http.HttpRequest.BodyPublisher;
import java.net.http.HttpResponse;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.orderlyferry.io.LostFileException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The operations of WebHDFS. What changes nothing is asked again when no answer comes, a few times and of each name node in
 * turn; what changes something is asked again only where what is there tells whether it was done. Safe for use by several threads.
 */
final class WebHdfs {

    private static final Logger LOG = LoggerFactory.getLogger(WebHdfs.class);
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final long[] PAUSES = {200, 1_000, 4_000};

    private final Account account;
    private final List<String> nodes;
    private final AtomicInteger current = new AtomicInteger();
    private final Exchange exchange = new Exchange();
    private volatile long blockSize = -1;

    WebHdfs(List<String> nodes, Account account) {
        this.nodes = List.copyOf(nodes);
        this.account = account;
    }

    private interface Attempt<T> {
        T at(String node) throws IOException;
    }

    /** Tries at each name node, and again after a pause; {@code again} is true from the second attempt on. */
    private <T> T tried(Attempt<T> attempt) throws IOException {
        for (int i = 0; ; i++) {
            try {
                return attempt.at(nodes.get(Math.floorMod(current.get(), nodes.size())));
            } catch (LostFileException | PassingException e) {
                if (i >= PAUSES.length + nodes.size() - 1) {
                    throw e instanceof PassingException passing ? passing.failure : e;
                }
                current.incrementAndGet();
                int round = i - nodes.size() + 1;
                if (round >= 0) {
                    pause(PAUSES[round]);
                }
                LOG.debug("asked again", e);
            }
        }
    }

    /** A server isn't ready. */
    private static final class PassingException extends IOException {
        private static final long serialVersionUID = 1L;
        private final transient FileSystemException failure;

        PassingException(FileSystemException failure) {
            super(failure);
            this.failure = failure;
        }
    }

    private static void pause(long millis) throws IOException {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted", e);
        }
    }

    private URI uri(String node, String inside, String operation, Map<String, String> parameters) {
        StringBuilder query = new StringBuilder("op=").append(operation);
        Map<String, String> all = new LinkedHashMap<>(account.parameters());
        all.putAll(parameters);
        all.forEach((name, value) -> query.append('&').append(name).append('=').append(Encoded.value(value)));
        return URI.create("http://" + node + "/webhdfs/v1" + Encoded.path(inside) + "?" + query);
    }

    private JsonNode asked(String method, HdfsPath path, String operation, Map<String, String> parameters)
            throws IOException {
        return tried(node -> once(node, method, path, operation, parameters));
    }

    private JsonNode once(String node, String method, HdfsPath path, String operation, Map<String, String> parameters)
            throws IOException {
        Exchange.Answer answer = exchange.ask(method, uri(node, path.inside(), operation, parameters));
        mustBeGood(answer, path);
        return answer.body().length == 0 ? JSON.missingNode() : JSON.readTree(answer.body());
    }

    private static void mustBeGood(Exchange.Answer answer, HdfsPath path) throws IOException {
        if (!answer.isGood()) {
            RemoteFailure failure = RemoteFailure.of(answer.status(), answer.body());
            FileSystemException exception = failure.exception(path.toString());
            throw failure.isPassing() ? new PassingException(exception) : exception;
        }
    }

    /** What an answer says; some server between here and there may answer anything, and that it is well. */
    private static JsonNode told(JsonNode answer, String what, HdfsPath path) throws FileSystemException {
        if (!answer.path(what).isObject()) {
            throw new FileSystemException(path.toString(), null, "the server's answer isn't one of WebHDFS");
        }
        return answer.path(what);
    }

    HdfsStatus status(HdfsPath path) throws IOException {
        return HdfsStatus.of(told(asked("GET", path, "GETFILESTATUS", Map.of()), "FileStatus", path));
    }

    boolean exists(HdfsPath path) throws IOException {
        try {
            status(path);
            return true;
        } catch (NoSuchFileException e) {
            return false;
        }
    }

    /**
     * Some of a folder's entries, in order of their names.
     *
     * @param after those behind this name; empty for the first
     */
    Page list(HdfsPath folder, String after) throws IOException {
        Map<String, String> from = after.isEmpty() ? Map.of() : Map.of("startAfter", after);
        JsonNode listing = told(asked("GET", folder, "LISTSTATUS_BATCH", from), "DirectoryListing", folder);
        List<HdfsStatus> entries = new ArrayList<>();
        for (JsonNode entry :
                listing.path("partialListing").path("FileStatuses").path("FileStatus")) {
            entries.add(HdfsStatus.of(entry));
        }
        return new Page(entries, listing.path("remainingEntries").asLong() > 0);
    }

    /** Some entries of a folder. */
    record Page(List<HdfsStatus> entries, boolean isMore) {}

    void makeFolders(HdfsPath path) throws IOException {
        if (!asked("PUT", path, "MKDIRS", Map.of()).path("boolean").asBoolean()) {
            throw new FileSystemException(path.toString(), null, "the folder wasn't made");
        }
    }

    /** Removes a file or an empty folder. One that is gone when an answer was lost was removed by the lost request. */
    void delete(HdfsPath path) throws IOException {
        boolean[] again = {false};
        boolean removed = tried(node -> {
            boolean second = again[0];
            again[0] = true;
            return once(node, "DELETE", path, "DELETE", Map.of("recursive", "false"))
                            .path("boolean")
                            .asBoolean()
                    || second;
        });
        if (!removed) {
            throw new NoSuchFileException(path.toString());
        }
    }

    /**
     * Renames, and looks at what came of it: the file's number goes with it. Without options a folder would be put into one that is
     * there, and a server that knows no options may do so.
     *
     * @param replacing whether a file that is there is replaced
     */
    void rename(HdfsPath from, HdfsPath to, boolean replacing) throws IOException {
        Object key = status(from).fileKey();
        Map<String, String> parameters =
                Map.of("destination", to.inside(), "renameoptions", replacing ? "OVERWRITE" : "NONE");
        boolean[] again = {false};
        tried(node -> {
            if (again[0] && isThere(to, key)) {
                return true;
            }
            again[0] = true;
            // with options there is no answer but the status
            return once(node, "PUT", from, "RENAME", parameters).path("boolean").asBoolean(true);
        });
        if (!isThere(to, key)) {
            throw exists(to)
                    ? new FileAlreadyExistsException(to.toString())
                    : new FileSystemException(from.toString(), to.toString(), "the name node hasn't renamed it");
        }
    }

    private boolean isThere(HdfsPath path, Object key) throws IOException {
        try {
            return status(path).fileKey().equals(key);
        } catch (NoSuchFileException e) {
            return false;
        }
    }

    void setTimes(HdfsPath path, long modified) throws IOException {
        asked("PUT", path, "SETTIMES", Map.of("modificationtime", String.valueOf(modified)));
    }

    void mayBe(HdfsPath path, String action) throws IOException {
        asked("GET", path, "CHECKACCESS", Map.of("fsaction", action));
    }

    /** Room in the whole file system. */
    JsonNode room(HdfsPath root) throws IOException {
        return asked("GET", root, "GETSTATUS", Map.of()).path("FsStatus");
    }

    /** How many bytes a block of a new file has; 0 where the cluster doesn't tell. */
    long blockSize(HdfsPath path) throws IOException {
        if (blockSize < 0) {
            try {
                blockSize = asked("GET", path.getRoot(), "GETSERVERDEFAULTS", Map.of())
                        .path("FsServerDefaults")
                        .path("blockSize")
                        .asLong();
            } catch (FileSystemException e) {
                LOG.debug("how large blocks are isn't known", e);
                blockSize = 0;
            }
        }
        return blockSize;
    }

    JsonNode checksum(HdfsPath path) throws IOException {
        return asked("GET", path, "GETFILECHECKSUM", Map.of()).path("FileChecksum");
    }

    /** A file's bytes from a place on; the caller closes them. */
    InputStream open(HdfsPath path, long from) throws IOException {
        return tried(node -> {
            HttpResponse<InputStream> response =
                    exchange.opened("GET", uri(node, path.inside(), "OPEN", Map.of("offset", String.valueOf(from))));
            if (response.statusCode() / 100 != 2) {
                try (InputStream body = response.body()) {
                    mustBeGood(new Exchange.Answer(response.statusCode(), body.readNBytes(64 * 1024)), path);
                }
            }
            return response.body();
        });
    }

    /** Where a data node takes a new file's bytes. */
    URI creating(HdfsPath path, boolean replacing) throws IOException {
        return destination("PUT", path, "CREATE", Map.of("overwrite", String.valueOf(replacing)));
    }

    /** Where a data node takes more of a file's bytes. */
    URI appending(HdfsPath path) throws IOException {
        return destination("POST", path, "APPEND", Map.of());
    }

    private URI destination(String method, HdfsPath path, String operation, Map<String, String> parameters)
            throws IOException {
        return tried(node -> exchange.destination(
                        method, uri(node, path.inside(), operation, parameters), answer -> mustBeGood(answer, path))
                .orElseThrow(() -> new FileSystemException(path.toString(), null, "the server wants no bytes of it")));
    }

    /** Sends bytes, once. */
    void send(String method, URI destination, HdfsPath path, BodyPublisher bytes) throws IOException {
        Exchange.Answer answer = exchange.send(method, destination, bytes);
        if (!answer.isGood()) {
            RemoteFailure failure = RemoteFailure.of(answer.status(), answer.body());
            throw failure.isPassing()
                    ? new LostFileException(failure.exception(path.toString()).getMessage(), null)
                    : failure.exception(path.toString());
        }
    }
}
