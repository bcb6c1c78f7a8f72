package org.orderlyferry.cluster.hdfs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.io.LostFileException;
import org.orderlyferry.io.WrittenPath;

/** A server in front of a real cluster that loses answers, answers with nonsense, or leads elsewhere. */
class UnreliableServerTest {

    private final HttpClient client = HttpClient.newHttpClient();
    private final List<String> asked = new CopyOnWriteArrayList<>();
    private HttpServer server;
    private Path folder;
    private Fault fault = (exchange, number) -> false;

    /** Does something else than to pass a request on; numbered from 1 for each operation. */
    @FunctionalInterface
    private interface Fault {
        boolean instead(HttpExchange exchange, int number) throws IOException;
    }

    @BeforeEach
    void start() throws IOException {
        Path there = MiniCluster.folder();
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.setExecutor(Executors.newCachedThreadPool());
        server.createContext("/", this::serve);
        server.start();
        folder = WrittenPath.read(
                "hdfs://quill@127.0.0.1:" + server.getAddress().getPort() + ((HdfsPath) there).inside());
    }

    @AfterEach
    void stop() {
        server.stop(0);
    }

    private static String operation(HttpExchange exchange) {
        return exchange.getRequestURI().getRawQuery().replaceAll(".*\\bop=(\\w+).*", "$1");
    }

    private void serve(HttpExchange exchange) throws IOException {
        try (exchange) {
            String operation = operation(exchange);
            asked.add(operation);
            int number = (int) asked.stream().filter(operation::equals).count();
            if (!fault.instead(exchange, number)) {
                passOn(exchange, true);
            }
        }
    }

    /** Has the name node do it, and gives its answer back, or says nothing. */
    private void passOn(HttpExchange exchange, boolean answering) throws IOException {
        URI uri = URI.create("http://127.0.0.1:"
                + MiniCluster.cluster().getNameNode().getHttpAddress().getPort() + exchange.getRequestURI());
        try {
            HttpResponse<byte[]> answer = client.send(
                    HttpRequest.newBuilder(uri)
                            .method(exchange.getRequestMethod(), HttpRequest.BodyPublishers.noBody())
                            .build(),
                    HttpResponse.BodyHandlers.ofByteArray());
            if (answering) {
                answer.headers().firstValue("Location").ifPresent(l -> exchange.getResponseHeaders()
                        .add("Location", l));
                answer(exchange, answer.statusCode(), answer.body());
            }
        } catch (InterruptedException e) {
            throw new IOException(e);
        }
    }

    private static void answer(HttpExchange exchange, int status, byte[] body) throws IOException {
        exchange.sendResponseHeaders(status, body.length == 0 ? -1 : body.length);
        exchange.getResponseBody().write(body);
    }

    private static boolean refuse(HttpExchange exchange, int status, String kind, String message) throws IOException {
        answer(
                exchange,
                status,
                ("{\"RemoteException\":{\"exception\":\"" + kind + "\",\"message\":\"" + message + "\"}}")
                        .getBytes(StandardCharsets.UTF_8));
        return true;
    }

    private boolean lose(HttpExchange exchange) throws IOException {
        passOn(exchange, false);
        return true;
    }

    @ParameterizedTest
    @ValueSource(strings = {"RENAME", "DELETE", "MKDIRS", "SETTIMES", "GETFILESTATUS", "CREATE", "LISTSTATUS_BATCH"})
    void anAnswerThatIsLostChangesNothing(String operation) throws IOException {
        fault = (exchange, number) -> number == 1 && operation(exchange).equals(operation) && lose(exchange);
        Path inner = Files.createDirectories(folder.resolve("inner"));
        Path file = Files.writeString(inner.resolve("loan.csv"), "id\n1\n");
        Files.setLastModifiedTime(file, java.nio.file.attribute.FileTime.fromMillis(1_000_000_000_000L));
        Path moved = Files.move(file, folder.resolve("moved.csv"), StandardCopyOption.REPLACE_EXISTING);
        assertThat(Files.readString(moved)).isEqualTo("id\n1\n");
        assertThat(Files.getLastModifiedTime(moved).toMillis()).isEqualTo(1_000_000_000_000L);
        assertThat(MiniCluster.names(folder)).containsExactly("inner", "moved.csv");
        Files.delete(moved);
        assertThat(MiniCluster.names(folder)).containsExactly("inner");
        // what is there tells that it was renamed
        assertThat(asked).filteredOn(operation::equals).hasSizeGreaterThan(operation.equals("RENAME") ? 0 : 1);
    }

    @Test
    void aServerThatIsNotReadyIsAskedAgainAndThenTold() throws IOException {
        fault = (exchange, number) -> number <= 2 && refuse(exchange, 403, "StandbyException", "not me");
        Files.writeString(folder.resolve("a"), "a");
        fault = (exchange, number) ->
                refuse(exchange, 403, "SafeModeException", "Name node is in safe mode.\\nThe rest");
        assertThatThrownBy(() -> Files.writeString(folder.resolve("b"), "b"))
                .isInstanceOf(IOException.class)
                .hasMessageContaining("Name node is in safe mode.")
                .hasMessageNotContaining("The rest");
    }

    @Test
    void theOtherNameNodeIsAsked() throws IOException {
        Path of = WrittenPath.read(
                "hdfs://quill@127.0.0.1:1,127.0.0.1:" + server.getAddress().getPort() + ((HdfsPath) folder).inside());
        Files.writeString(of.resolve("a"), "a");
        assertThat(Files.readString(of.resolve("a"))).isEqualTo("a");
    }

    @Test
    void whereAServerLeadsIsBounded() {
        AtomicInteger count = new AtomicInteger();
        fault = (exchange, number) -> {
            count.incrementAndGet();
            exchange.getResponseHeaders()
                    .add("Location", exchange.getRequestURI().toString());
            exchange.sendResponseHeaders(307, -1);
            return true;
        };
        assertThatThrownBy(() -> Files.size(folder)).hasMessageContaining("redirected more than 3 times");
        assertThat(count.get()).isEqualTo(4);
    }

    @ParameterizedTest
    @ValueSource(strings = {"file:///etc/passwd", "https://127.0.0.1/", "ftp://127.0.0.1/a", "http:", "http://[", ""})
    void whatLeadsElsewhereIsNotFollowed(String location) {
        fault = (exchange, number) -> {
            exchange.getResponseHeaders().add("Location", location);
            exchange.sendResponseHeaders(307, -1);
            return true;
        };
        assertThatThrownBy(() -> Files.readAllBytes(folder.resolve("a"))).isInstanceOf(IOException.class);
        assertThat(asked).hasSizeLessThan(5);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "null",
                "[]",
                "{",
                "<html>no</html>",
                "{\"FileStatus\":7}",
                "{\"FileStatus\":{\"length\":\"x\"}}"
            })
    void nonsenseIsNoFile(String body) {
        fault = (exchange, number) -> {
            answer(exchange, number == 1 ? 400 : 200, body.getBytes(StandardCharsets.UTF_8));
            return true;
        };
        assertThatThrownBy(() -> Files.size(folder)).isInstanceOf(IOException.class);
        // also where it is said to be well
        assertThatThrownBy(() -> Files.size(folder)).isInstanceOf(IOException.class);
        assertThatThrownBy(() -> MiniCluster.names(folder)).isInstanceOf(Exception.class);
    }

    @Test
    void anAnswerWithoutEndIsGivenUp() {
        fault = (exchange, number) -> {
            exchange.sendResponseHeaders(200, 0);
            byte[] blanks = new byte[1024 * 1024];
            Arrays.fill(blanks, (byte) ' ');
            for (int i = 0; i < 200; i++) {
                exchange.getResponseBody().write(blanks);
            }
            return true;
        };
        assertThatThrownBy(() -> Files.size(folder)).hasMessageContaining("has more than 67108864 bytes");
    }

    /** Names with slashes and dots would lead out of the folder that was listed. */
    @Test
    void aListOfHostileNamesStaysInItsFolder() throws IOException {
        fault = (exchange, number) -> {
            if (!operation(exchange).equals("LISTSTATUS_BATCH")) {
                return false;
            }
            answer(
                    exchange,
                    200,
                    ("{\"DirectoryListing\":{\"partialListing\":{\"FileStatuses\":{\"FileStatus\":["
                                    + "{\"pathSuffix\":\"../../etc\",\"type\":\"FILE\",\"length\":1},{\"pathSuffix\":\"/root\",\"type\":\"FILE\",\"length\":1},"
                                    + "{\"pathSuffix\":\"..\",\"type\":\"FILE\",\"length\":1}]}},\"remainingEntries\":0}}")
                            .getBytes(StandardCharsets.UTF_8));
            return true;
        };
        assertThatThrownBy(() -> MiniCluster.names(folder)).isInstanceOf(RuntimeException.class);
    }

    private static byte[] bytes() {
        byte[] bytes = new byte[2_500_000];
        new Random(7).nextBytes(bytes);
        return bytes;
    }

    /** A data node that is a stand-in: takes what comes, and answers as told. */
    private URI dataNode(int status, boolean whole) {
        server.createContext("/data", exchange -> {
            try (exchange;
                    InputStream in = exchange.getRequestBody()) {
                if (whole) {
                    in.readAllBytes();
                } else {
                    in.readNBytes(300_000);
                }
                if (status > 0) {
                    answer(exchange, status, new byte[0]);
                }
            }
        });
        return URI.create("http://127.0.0.1:" + server.getAddress().getPort() + "/data?op=DATA");
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 201, 403})
    void bytesThatADataNodeDropsAreMissed(int status) {
        URI data = dataNode(status, status != 0);
        fault = (exchange, number) -> {
            if (!operation(exchange).equals("CREATE")) {
                return false;
            }
            exchange.getResponseHeaders().add("Location", data.toString());
            exchange.sendResponseHeaders(307, -1);
            return true;
        };
        assertThatThrownBy(() -> Files.write(folder.resolve("loan.csv"), bytes()))
                .isInstanceOf(IOException.class);
        assertThatThrownBy(() -> Files.write(folder.resolve("small.csv"), new byte[100]))
                .isInstanceOf(IOException.class);
    }

    @Test
    void aChecksumThatIsAnotherIsTold() {
        fault = (exchange, number) -> {
            if (!operation(exchange).equals("GETFILECHECKSUM")) {
                return false;
            }
            answer(
                    exchange,
                    200,
                    ("{\"FileChecksum\":{\"algorithm\":\"MD5-of-0MD5-of-512CRC32C\",\"bytes\":\"" + "00".repeat(28)
                                    + "\",\"length\":28}}")
                            .getBytes(StandardCharsets.UTF_8));
            return true;
        };
        assertThatThrownBy(() -> Files.write(folder.resolve("loan.csv"), bytes()))
                .hasMessageContaining("the cluster's checksum isn't that of what was written");
        assertThatThrownBy(() -> Files.write(folder.resolve("small.csv"), new byte[7]))
                .hasMessageContaining("the cluster's checksum isn't that of what was written");
    }

    /** A connection that ends in the middle of a file is followed by another one from there on. */
    @Test
    void aReadThatBreaksOffGoesOn() throws IOException {
        Path file = folder.resolve("loan.csv");
        Files.write(file, bytes());
        List<String> offsets = new ArrayList<>();
        fault = (exchange, number) -> {
            if (!operation(exchange).equals("OPEN")) {
                return false;
            }
            int from = Integer.parseInt(exchange.getRequestURI().getRawQuery().replaceAll(".*offset=(\\d+).*", "$1"));
            offsets.add(String.valueOf(from));
            int to = Math.min(bytes().length, from + 700_000);
            // says that more will come
            exchange.sendResponseHeaders(200, bytes().length - from);
            exchange.getResponseBody().write(bytes(), from, to - from);
            exchange.getResponseBody().flush();
            return true;
        };
        assertThat(Files.readAllBytes(file)).isEqualTo(bytes());
        assertThat(offsets).hasSizeBetween(4, 8);
        fault = (exchange, number) -> operation(exchange).equals("OPEN");
        assertThatThrownBy(() -> Files.readAllBytes(file)).isInstanceOf(LostFileException.class);
    }

    @Test
    void aTokenIsSentAndNeverShown() {
        Account account = Account.of("quill", name -> name.equals(Account.TOKEN) ? "s3cret" : null);
        assertThat(account.parameters()).containsEntry("delegation", "s3cret").hasSize(1);
        assertThat(account.toString()).doesNotContain("s3cret");
        WebHdfs token = new WebHdfs(List.of("127.0.0.1:1"), account);
        assertThatThrownBy(() -> token.status((HdfsPath) folder))
                .isInstanceOf(IOException.class)
                .satisfies(e -> assertThat(e.toString() + e.getCause()).doesNotContain("s3cret"));
    }
}
