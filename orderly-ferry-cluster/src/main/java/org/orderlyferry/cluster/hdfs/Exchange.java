package org.orderlyferry.cluster.hdfs;

import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublisher;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.FileSystemException;
import java.time.Duration;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.io.LostFileException;

/**
 * Single requests, each sent once. Redirects are followed by hand: so many of them, by the same protocol, and nothing that
 * we know goes to where they lead but what the server itself has put into them. Safe for use by several threads.
 */
final class Exchange {

    private static final int MOST_REDIRECTS = 3;
    private static final int LONGEST_ANSWER = 64 * 1024 * 1024;
    private static final Duration ANSWER = Duration.ofSeconds(60);
    private static final Set<Integer> REDIRECTS = Set.of(301, 302, 303, 307, 308);

    private final HttpClient client = HttpClient.newBuilder()
            .version(HttpClient.Version.HTTP_1_1)
            .followRedirects(HttpClient.Redirect.NEVER)
            .connectTimeout(Duration.ofSeconds(10))
            .build();

    /**
     * A server's answer.
     *
     * @param body all of it, which is bounded
     */
    record Answer(int status, byte[] body) {
        boolean isGood() {
            return status >= 200 && status < 300;
        }
    }

    /** Asks, and follows where that leads. */
    Answer ask(String method, URI uri) throws IOException {
        HttpResponse<InputStream> response = opened(method, uri);
        try (InputStream body = response.body()) {
            return new Answer(response.statusCode(), bounded(body));
        }
    }

    private static byte[] bounded(InputStream body) throws IOException {
        byte[] bytes = body.readNBytes(LONGEST_ANSWER + 1);
        if (bytes.length > LONGEST_ANSWER) {
            throw new IOException("the server's answer has more than " + LONGEST_ANSWER + " bytes");
        }
        return bytes;
    }

    /** Asks, and follows where that leads; the caller reads the body and closes it. */
    HttpResponse<InputStream> opened(String method, URI uri) throws IOException {
        URI there = uri;
        for (int i = 0; i <= MOST_REDIRECTS; i++) {
            HttpResponse<InputStream> response =
                    sent(request(there, method, BodyPublishers.noBody()).timeout(ANSWER));
            Optional<URI> next = next(response, there);
            if (next.isEmpty()) {
                return response;
            }
            response.body().close();
            there = next.get();
        }
        throw new IOException("the server has redirected more than " + MOST_REDIRECTS + " times");
    }

    /**
     * Where a server wants bytes to be sent.
     *
     * @return empty if it wants nothing, which its answer says
     */
    Optional<URI> destination(String method, URI uri, RefusedBy refused) throws IOException {
        HttpResponse<InputStream> response =
                sent(request(uri, method, BodyPublishers.noBody()).timeout(ANSWER));
        try (InputStream body = response.body()) {
            Optional<URI> next = next(response, uri);
            if (next.isEmpty()) {
                refused.by(new Answer(response.statusCode(), bounded(body)));
            }
            return next;
        }
    }

    /** Takes the answer of a server that wants nothing. */
    @FunctionalInterface
    interface RefusedBy {
        void by(Answer answer) throws IOException;
    }

    /** Sends bytes, to where a server wants them. */
    Answer send(String method, URI uri, BodyPublisher bytes) throws IOException {
        HttpResponse<InputStream> response =
                sent(request(uri, method, bytes).header("Content-Type", "application/octet-stream"));
        try (InputStream body = response.body()) {
            return new Answer(response.statusCode(), bounded(body));
        }
    }

    private static HttpRequest.Builder request(URI uri, String method, BodyPublisher body) {
        return HttpRequest.newBuilder(uri).method(method, body);
    }

    private HttpResponse<InputStream> sent(HttpRequest.Builder request) throws IOException {
        HttpRequest built = request.build();
        try {
            return client.send(built, BodyHandlers.ofInputStream());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted while waiting for " + built.uri().getAuthority(), e);
        } catch (IOException e) {
            String what = e.getMessage() == null ? "no connection" : e.getMessage();
            throw new LostFileException(built.uri().getAuthority() + ": " + what, e);
        }
    }

    private static Optional<URI> next(HttpResponse<?> response, URI from) throws IOException {
        if (!REDIRECTS.contains(response.statusCode())) {
            return Optional.empty();
        }
        String location = response.headers()
                .firstValue("Location")
                .orElseThrow(() -> new FileSystemException(from.getPath(), null, "the server redirects to nowhere"));
        URI next;
        try {
            next = from.resolve(location);
        } catch (IllegalArgumentException e) {
            throw new IOException("the server redirects to what is no address", e);
        }
        boolean same = next.getScheme() != null
                && next.getScheme().equalsIgnoreCase(from.getScheme())
                && next.getHost() != null;
        if (!same) {
            throw new IOException("the server redirects to another protocol: " + next.getScheme());
        }
        return Optional.of(next);
    }
}
