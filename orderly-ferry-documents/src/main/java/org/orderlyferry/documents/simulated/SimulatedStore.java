package org.orderlyferry.documents.simulated;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.cfg.JsonNodeFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.math.BigInteger;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.interfaces.RSAPrivateCrtKey;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import org.orderlyferry.documents.simulated.Faults.Fault;
import org.orderlyferry.problem.PlaceException;

/**
 * A store of documents of one's own, in this process and its memory, on a free port of 127.0.0.1; gone when it is closed. It
 * stands in for services that are reached over HTTP by a service account's key file. Safe for use by several threads.
 */
public final class SimulatedStore implements AutoCloseable {

    /**
     * A request as it came.
     *
     * @param method of HTTP
     * @param path decoded, without what stands behind a question mark
     * @param number which of all requests it is, from 1
     */
    public record Request(String method, String path, int number) {}

    private static final String NO_DELAY = "sun.net.httpserver.nodelay";
    private static final int LARGEST_BODY = 64 << 20;
    private static final int KEY_BITS = 2_048;
    private static final int THREADS = 16;
    private static final int MOST_REMEMBERED = 10_000;
    private static final int USUAL_PAGE = 300;

    private static final ObjectMapper JSON = JsonMapper.builder()
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .disable(JsonNodeFeature.STRIP_TRAILING_BIGDECIMAL_ZEROES)
            .build();

    private final HttpServer server;
    private final ExecutorService threads = Executors.newFixedThreadPool(THREADS);
    private final Map<String, Project> projects = new ConcurrentHashMap<>();
    private final Map<String, Answer> remembered = new ConcurrentHashMap<>();
    private final SignIn signIn = new SignIn();
    private final Faults faults = new Faults();
    private final AtomicInteger requests = new AtomicInteger();
    private long second;
    private int writtenInSecond;

    static {
        // the JDK's server would wait forty milliseconds before each answer's second part
        if (System.getProperty(NO_DELAY) == null) {
            System.setProperty(NO_DELAY, "true");
        }
    }

    private SimulatedStore() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getByName("127.0.0.1"), 0), 0);
        server.createContext("/", this::handle);
        server.setExecutor(threads);
        server.start();
    }

    /**
     * Starts a store.
     *
     * @throws PlaceException if no port can be had
     */
    public static SimulatedStore start() {
        try {
            return new SimulatedStore();
        } catch (IOException e) {
            throw new PlaceException("127.0.0.1", "no store can be started: " + e.getMessage(), e);
        }
    }

    private String root() {
        return "127.0.0.1:" + server.getAddress().getPort();
    }

    /** A project's address, with the file of the key that opens it. */
    public String url(String project, Path key) {
        return "store://" + root() + "/" + project + "?key=" + key;
    }

    /** What goes wrong with it. */
    public Faults faults() {
        return faults;
    }

    /** How many requests have come so far. */
    public int requests() {
        return requests.get();
    }

    /**
     * Makes a key that lets whoever holds it at a project, and writes it into a file that only its owner can read.
     *
     * @throws PlaceException if it can't be written
     */
    public void makeKey(String project, Path file) {
        makeKey(project, file, newPair());
    }

    /** A new pair of keys, which takes a moment. */
    public static KeyPair newPair() {
        try {
            KeyPairGenerator generator = KeyPairGenerator.getInstance("RSA");
            generator.initialize(KEY_BITS);
            return generator.generateKeyPair();
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("this Java can't make RSA keys", e);
        }
    }

    /**
     * Lets whoever holds a pair of keys that is there in at a project, too.
     *
     * @throws PlaceException if its file can't be written
     */
    public void makeKey(String project, Path file, KeyPair pair) {
        try {
            String issuer = "ferry@" + project;
            signIn.register(issuer, project, pair.getPublic());
            projects.computeIfAbsent(project, p -> new Project());
            ObjectNode root = JSON.createObjectNode();
            root.put("issuer", issuer).put("token_endpoint", "http://" + root() + "/token");
            root.set("key", jwk((RSAPrivateCrtKey) pair.getPrivate()));
            if (Files.getFileStore(file.toAbsolutePath().getParent()).supportsFileAttributeView("posix")) {
                Files.createFile(
                        file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            }
            Files.writeString(file, root.toPrettyString());
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "the key can't be written: " + e.getMessage(), e);
        }
    }

    /** A private key as RFC 7517 and RFC 7518 have it. */
    private static ObjectNode jwk(RSAPrivateCrtKey key) {
        return JSON.createObjectNode()
                .put("kty", "RSA")
                .put("alg", "RS256")
                .put("n", text(key.getModulus()))
                .put("e", text(key.getPublicExponent()))
                .put("d", text(key.getPrivateExponent()))
                .put("p", text(key.getPrimeP()))
                .put("q", text(key.getPrimeQ()))
                .put("dp", text(key.getPrimeExponentP()))
                .put("dq", text(key.getPrimeExponentQ()))
                .put("qi", text(key.getCrtCoefficient()));
    }

    private static String text(BigInteger number) {
        byte[] bytes = number.toByteArray();
        int from = bytes.length > 1 && bytes[0] == 0 ? 1 : 0;
        return Base64.getUrlEncoder().withoutPadding().encodeToString(Arrays.copyOfRange(bytes, from, bytes.length));
    }

    private void handle(HttpExchange exchange) throws IOException {
        try (exchange) {
            byte[] body = exchange.getRequestBody().readNBytes(LARGEST_BODY + 1);
            Request request = new Request(
                    exchange.getRequestMethod(), exchange.getRequestURI().getPath(), requests.incrementAndGet());
            pause();
            Optional<Fault> fault = faults.of(request);
            if (fault.orElse(null) instanceof Fault.Refused refused) {
                send(
                        exchange,
                        Answer.problem(refused.status(), "the store is busy").after(refused.retryAfter()));
            } else if (fault.orElse(null) instanceof Fault.Dropped) {
                return;
            } else {
                Answer answer = body.length > LARGEST_BODY
                        ? Answer.problem(413, "the request is too large")
                        : answer(exchange, request, body);
                if (fault.isEmpty()) {
                    send(exchange, answer);
                }
            }
        } catch (RuntimeException e) {
            // a fault of the simulation; its text says nothing of a key
            send(exchange, Answer.problem(500, String.valueOf(e)));
        }
    }

    private void pause() {
        try {
            Thread.sleep(faults.latency().toMillis());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private Answer answer(HttpExchange exchange, Request request, byte[] body) {
        if (request.path().equals("/token") && request.method().equals("POST")) {
            return signIn.token(
                    new String(body, StandardCharsets.UTF_8), "http://" + root() + "/token", faults.tokenSeconds());
        }
        List<String> path = Arrays.stream(exchange.getRequestURI().getRawPath().split("/"))
                .skip(1)
                .map(p -> URLDecoder.decode(p.replace("+", "%2B"), StandardCharsets.UTF_8))
                .toList();
        if (path.size() < 2 || !path.get(0).equals("projects")) {
            return Answer.problem(404, "there is nothing here");
        }
        Optional<String> allowed = signIn.project(exchange.getRequestHeaders().getFirst("Authorization"));
        if (allowed.isEmpty()) {
            return Answer.problem(401, "no token, or one that is over");
        }
        if (!allowed.get().equals(path.get(1))) {
            return Answer.problem(403, "the key is for another project");
        }
        String key = exchange.getRequestHeaders().getFirst("Idempotency-Key");
        if (key != null && remembered.containsKey(key)) {
            return remembered.get(key);
        }
        Answer answer;
        try {
            JsonNode json = body.length == 0 ? JSON.createObjectNode() : JSON.readTree(body);
            answer = answer(
                    projects.get(path.get(1)),
                    request.method(),
                    path,
                    exchange.getRequestURI().getQuery(),
                    json);
        } catch (JsonProcessingException e) {
            return Answer.problem(400, "the request isn't JSON");
        } catch (IOException e) {
            return Answer.problem(500, "the request can't be read");
        }
        if (key != null && answer.status() < 400) {
            if (remembered.size() >= MOST_REMEMBERED) {
                remembered.clear();
            }
            remembered.put(key, answer);
        }
        return answer;
    }

    private Answer answer(Project project, String method, List<String> path, String query, JsonNode body) {
        String what = path.size() + " " + method + (path.size() > 4 ? " " + path.get(4) : "");
        if (path.size() > 2 && !path.get(2).equals("collections")) {
            return Answer.problem(404, "there is nothing here");
        }
        return switch (what) {
            case "2 GET" -> Project.limits(path.get(1));
            case "3 GET" -> project.list();
            case "4 GET" -> project.look(path.get(3));
            case "4 PUT" -> project.make(path.get(3), body);
            case "4 DELETE" -> project.remove(path.get(3));
            case "5 POST name" -> project.rename(path.get(3), body.path("name").asText());
            case "5 GET documents" -> {
                int most = number(parameter(query, "most"));
                yield project.page(path.get(3), parameter(query, "after"), most);
            }
            case "5 POST writes" ->
                isOverQuota(body.path("writes").size())
                        ? Answer.problem(429, "too many documents in a second").after(1)
                        : project.write(path.get(3), body);
            default -> Answer.problem(405, "that can't be done here");
        };
    }

    private static String parameter(String query, String name) {
        return query == null
                ? ""
                : Arrays.stream(query.split("&"))
                        .filter(p -> p.startsWith(name + "="))
                        .map(p -> p.substring(name.length() + 1))
                        .findFirst()
                        .orElse("");
    }

    private static int number(String text) {
        return text.matches("[1-9]\\d{0,2}") ? Math.min(Integer.parseInt(text), USUAL_PAGE) : USUAL_PAGE;
    }

    private synchronized boolean isOverQuota(int documents) {
        long now = System.nanoTime() / 1_000_000_000L;
        if (now != second) {
            second = now;
            writtenInSecond = 0;
        }
        boolean over = writtenInSecond > 0 && writtenInSecond + documents > faults.documentsPerSecond();
        writtenInSecond += over ? 0 : documents;
        return over;
    }

    private static void send(HttpExchange exchange, Answer answer) throws IOException {
        if (answer.retryAfter() >= 0) {
            exchange.getResponseHeaders().set("Retry-After", Integer.toString(answer.retryAfter()));
        }
        if (answer.body().isEmpty()) {
            exchange.sendResponseHeaders(answer.status(), -1);
            return;
        }
        exchange.getResponseHeaders()
                .set("Content-Type", answer.status() < 400 ? "application/json" : "application/problem+json");
        byte[] bytes = answer.body().get().toString().getBytes(StandardCharsets.UTF_8);
        exchange.sendResponseHeaders(answer.status(), bytes.length);
        exchange.getResponseBody().write(bytes);
    }

    @Override
    public void close() {
        server.stop(0);
        threads.shutdownNow();
    }
}
