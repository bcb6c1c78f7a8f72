package org.orderlyferry.documents.store;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.cfg.JsonNodeFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.io.InputStream;
import java.net.ConnectException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.problem.PlaceException;

/**
 * Speaks to a store. What it asks for can be asked again without being done twice: documents have ids that are given, and what else changes
 * something has a key of its own (Idempotency-Key, an IETF draft). So a request whose answer is lost, or that the store has
 * no time for, is sent again. Safe for use by several threads.
 */
final class Client {

    private static final int MOST_TRIES = 8;
    private static final int FIRST_TRIES = 3;
    private static final int LARGEST_ANSWER = 256 << 20;
    private static final int DEEPEST = 1_000;
    private static final Duration CONNECT = Duration.ofSeconds(10);
    private static final Duration ANSWER = Duration.ofMinutes(2);
    private static final Duration LONGEST_WAIT = Duration.ofMinutes(1);
    private static final Duration FIRST_WAIT = Duration.ofMillis(200);
    /** Before a token is over, so that it is still good when it arrives. */
    private static final int MARGIN = 30;

    static final ObjectMapper JSON = JsonMapper.builder(JsonFactory.builder()
                    .streamReadConstraints(StreamReadConstraints.builder()
                            .maxStringLength(LARGEST_ANSWER)
                            .maxNestingDepth(DEEPEST)
                            .build())
                    .build())
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .disable(JsonNodeFeature.STRIP_TRAILING_BIGDECIMAL_ZEROES)
            .build();

    private volatile boolean answered;
    private final ProjectAddress address;
    private final KeyFile key;
    private final HttpClient http =
            HttpClient.newBuilder().connectTimeout(CONNECT).build();
    private final Set<CompletableFuture<?>> underway = ConcurrentHashMap.newKeySet();
    private String token = "";
    private Instant tokenEnd = Instant.MIN;
    private boolean stopped;

    Client(ProjectAddress address, KeyFile key) {
        this.address = address;
        this.key = key;
    }

    String shown() {
        return address.shown();
    }

    JsonNode get(String... path) {
        return heard(() -> ask("GET", address.below(path), null));
    }

    /** What is refused where nothing is known to be wrong with what was asked. */
    private JsonNode heard(Supplier<JsonNode> asked) {
        try {
            return asked.get();
        } catch (RefusedRequest e) {
            throw new PlaceException(shown(), "has refused: " + e.getMessage(), e);
        }
    }

    /** A page of documents, those behind the end of another one. */
    JsonNode page(String collection, String after) {
        URI uri = address.below("collections", collection, "documents");
        return heard(() -> ask("GET", URI.create(uri + "?after=" + after), null));
    }

    JsonNode send(String method, byte[] body, String... path) {
        return heard(() -> ask(method, address.below(path), body));
    }

    /**
     * Writes documents.
     *
     * @throws RefusedRequest if the store won't have one of them
     */
    JsonNode write(String collection, byte[] body) {
        return ask("POST", address.below("collections", collection, "writes"), body);
    }

    private JsonNode ask(String method, URI uri, byte @Nullable [] body) {
        String once = UUID.randomUUID().toString();
        Duration wait = FIRST_WAIT;
        boolean signedInAnew = false;
        for (int attempt = 1; ; attempt++) {
            Optional<HttpResponse<byte[]>> response = once(method, uri, body, once, attempt);
            if (response.isPresent()) {
                int status = response.get().statusCode();
                if (status < 300) {
                    return json(response.get().body());
                }
                if (status == 401 && !signedInAnew) {
                    signedInAnew = true;
                    forgetToken();
                    continue;
                }
                if (status != 429 && status != 503 && status != 502 && status != 504) {
                    throw refused(status, response.get().body());
                }
                if (attempt >= MOST_TRIES) {
                    throw new PlaceException(
                            shown(), "has answered " + status + " " + attempt + " times; try again later", null);
                }
            }
            pause(response.flatMap(Client::retryAfter).orElse(wait));
            wait = wait.multipliedBy(2);
        }
    }

    /** An answer; nothing where the connection was lost, which may be tried again. */
    private Optional<HttpResponse<byte[]>> once(
            String method, URI uri, byte @Nullable [] body, String once, int attempt) {
        HttpRequest.Builder request = HttpRequest.newBuilder(uri)
                .timeout(ANSWER)
                .header("Authorization", "Bearer " + token())
                .method(
                        method,
                        body == null
                                ? HttpRequest.BodyPublishers.noBody()
                                : HttpRequest.BodyPublishers.ofByteArray(body));
        if (!method.equals("GET")) {
            request.header("Idempotency-Key", once).header("Content-Type", "application/json");
        }
        try {
            return Optional.of(exchange(request.build()));
        } catch (IOException e) {
            if (attempt >= mostTries(e)) {
                throw new PlaceException(shown(), "can't be reached: " + said(e), false, true, e);
            }
            return Optional.empty();
        }
    }

    private HttpResponse<byte[]> exchange(HttpRequest request) throws IOException {
        mustGoOn();
        CompletableFuture<HttpResponse<byte[]>> answer = http.sendAsync(
                request,
                response -> HttpResponse.BodySubscribers.mapping(
                        HttpResponse.BodySubscribers.ofInputStream(), Client::bounded));
        underway.add(answer);
        try {
            HttpResponse<byte[]> response = answer.get();
            answered = true;
            return response;
        } catch (ExecutionException e) {
            throw e.getCause() instanceof IOException io ? io : new IOException(e.getCause());
        } catch (CancellationException e) {
            throw stoppedHere();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw stoppedHere();
        } finally {
            underway.remove(answer);
        }
    }

    private static byte[] bounded(InputStream in) {
        try (in) {
            byte[] bytes = in.readNBytes(LARGEST_ANSWER + 1);
            if (bytes.length > LARGEST_ANSWER) {
                throw new java.io.UncheckedIOException(new IOException("an answer of more than 256 MB"));
            }
            return bytes;
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    /** Where nobody has ever answered, the address is more likely to be wrong than the store to be away. */
    private int mostTries(IOException e) {
        return !answered && e instanceof ConnectException ? FIRST_TRIES : MOST_TRIES;
    }

    private static String said(IOException e) {
        String message = e.getMessage();
        if (message == null && e instanceof ConnectException) {
            return "nobody takes the connection";
        }
        return message == null ? e.getClass().getSimpleName() : message;
    }

    /** How long a store asks to be left alone (RFC 9110, section 10.2.3), within bounds. */
    private static Optional<Duration> retryAfter(HttpResponse<byte[]> response) {
        return response.headers().firstValue("Retry-After").flatMap(text -> {
            try {
                Duration wait = text.matches("\\d{1,9}")
                        ? Duration.ofSeconds(Long.parseLong(text))
                        : Duration.between(
                                Instant.now(),
                                ZonedDateTime.parse(text, DateTimeFormatter.RFC_1123_DATE_TIME)
                                        .toInstant());
                return Optional.of(
                        wait.isNegative() ? Duration.ZERO : wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait);
            } catch (DateTimeParseException e) {
                return Optional.empty();
            }
        });
    }

    private JsonNode json(byte[] body) {
        try {
            return body.length == 0 ? JSON.missingNode() : JSON.readTree(body);
        } catch (JsonProcessingException e) {
            throw new PlaceException(shown(), "has answered with something that isn't JSON", e);
        } catch (IOException e) {
            throw new PlaceException(shown(), "has answered with something that can't be read", e);
        }
    }

    private RuntimeException refused(int status, byte[] body) {
        String detail = "HTTP " + status;
        String document = "";
        try {
            JsonNode problem = JSON.readTree(body);
            detail = problem.path("detail").asText(detail);
            document = problem.path("document").asText();
        } catch (IOException e) {
            // the status has to do
        }
        if (status == 401 || status == 403) {
            return new PlaceException(shown(), "refuses the key: " + detail, true, false, null);
        }
        return new RefusedRequest(status, detail, document);
    }

    private synchronized void forgetToken() {
        tokenEnd = Instant.MIN;
    }

    private synchronized String token() {
        if (Instant.now().plusSeconds(MARGIN).isBefore(tokenEnd)) {
            return token;
        }
        Duration wait = FIRST_WAIT;
        for (int attempt = 1; ; attempt++) {
            String form = "grant_type="
                    + URLEncoder.encode("urn:ietf:params:oauth:grant-type:jwt-bearer", StandardCharsets.UTF_8)
                    + "&assertion=" + key.assertion();
            HttpRequest request = HttpRequest.newBuilder(key.tokenEndpoint())
                    .timeout(ANSWER)
                    .header("Content-Type", "application/x-www-form-urlencoded")
                    .POST(HttpRequest.BodyPublishers.ofString(form))
                    .build();
            try {
                HttpResponse<byte[]> response = exchange(request);
                if (response.statusCode() == 200) {
                    JsonNode answer = json(response.body());
                    token = answer.path("access_token").asText();
                    tokenEnd = Instant.now()
                            .plusSeconds(Math.max(
                                    MARGIN + 1, answer.path("expires_in").asLong()));
                    return token;
                }
                if (response.statusCode() != 429 && response.statusCode() != 503) {
                    throw new PlaceException(
                            shown(), "gives no token for the key (" + code(response.body()) + ")", true, false, null);
                }
                wait = retryAfter(response).orElse(wait);
            } catch (IOException e) {
                if (attempt >= mostTries(e)) {
                    throw new PlaceException(
                            shown(), "can't be reached at " + key.tokenEndpoint() + ": " + said(e), false, true, e);
                }
            }
            if (attempt >= MOST_TRIES) {
                throw new PlaceException(shown(), "has given no token in " + attempt + " attempts", null);
            }
            pause(wait);
            wait = wait.multipliedBy(2);
        }
    }

    /** A code of RFC 6749, and no more of what an answer says. */
    private static String code(byte[] body) {
        try {
            String code = JSON.readTree(body).path("error").asText();
            return code.matches("[a-z_]{1,40}") ? code : "no reason given";
        } catch (IOException e) {
            return "no reason given";
        }
    }

    private synchronized void pause(Duration time) {
        long end = System.nanoTime() + time.toNanos();
        try {
            for (long left = time.toMillis(); left > 0; left = (end - System.nanoTime()) / 1_000_000) {
                mustGoOn();
                wait(left);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw stoppedHere();
        }
    }

    private synchronized void mustGoOn() {
        if (stopped) {
            throw stoppedHere();
        }
    }

    private PlaceException stoppedHere() {
        return new PlaceException(shown(), "was left alone, since the work was stopped", null);
    }

    /** Ends what is asked for now, and what is waited for. */
    synchronized void stop() {
        stopped = true;
        notifyAll();
        underway.forEach(u -> u.cancel(true));
    }

    /** Lets requests through again, to put things back. */
    synchronized void resume() {
        stopped = false;
    }
}
