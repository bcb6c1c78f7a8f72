package org.orderlyferry.matrix;

import java.io.File;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/** A master and workers as processes of their own, out of Spark's own jars. */
final class SparkCluster implements AutoCloseable {

    private static final Path HOME = Path.of("..", "orderly-ferry-cluster", "spark", "target", "home")
            .toAbsolutePath()
            .normalize();

    private final Path folder;
    private final Map<String, String> environment;
    private final int port = freePort();
    private final Process master;
    private final List<Process> workers = new ArrayList<>();

    /**
     * Starts a master.
     *
     * @param folder for logs, and what executors leave
     * @param environment what workers find in theirs, and hand on to executors
     */
    SparkCluster(Path folder, Map<String, String> environment) throws IOException {
        this.folder = folder;
        this.environment = environment;
        master = start(
                "master",
                "org.apache.spark.deploy.master.Master",
                "--host",
                "127.0.0.1",
                "--port",
                String.valueOf(port),
                "--webui-port",
                String.valueOf(freePort()));
    }

    private static int freePort() {
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            return socket.getLocalPort();
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }

    static String java() {
        return Path.of(System.getProperty("java.home"), "bin", "java").toString();
    }

    /** What tells a process where Spark is. */
    static Map<String, String> settings() {
        return Map.of(
                "SPARK_HOME",
                HOME.toString(),
                "SPARK_LOCAL_IP",
                "127.0.0.1",
                "SPARK_SCALA_VERSION",
                "2.13",
                // for executors, too; they live for seconds
                "JDK_JAVA_OPTIONS",
                "-XX:TieredStopAtLevel=1 -XX:+UseSerialGC");
    }

    String address() {
        return "spark://127.0.0.1:" + port;
    }

    private Process start(String name, String main, String... arguments) throws IOException {
        List<String> command = new ArrayList<>(List.of(java(), "-Xmx256m", "-cp", HOME + "/jars/*", main));
        command.addAll(List.of(arguments));
        ProcessBuilder builder = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve(name + ".log").toFile());
        builder.environment().putAll(settings());
        builder.environment().putAll(environment);
        builder.environment().put("SPARK_WORKER_DIR", folder.resolve(name).toString());
        return builder.start();
    }

    /** Starts one more worker, and waits until it is registered. */
    Process worker() throws IOException, InterruptedException {
        String name = "worker-" + workers.size();
        Process worker = start(
                name,
                "org.apache.spark.deploy.worker.Worker",
                "--host",
                "127.0.0.1",
                "--webui-port",
                String.valueOf(freePort()),
                "-c",
                "2",
                "-m",
                "1g",
                address());
        workers.add(worker);
        for (int i = 0;
                !Files.readString(folder.resolve(name + ".log")).contains("Successfully registered with master");
                i++) {
            if (i > 240 || !worker.isAlive()) {
                throw new IllegalStateException("no worker: " + logs());
            }
            Thread.sleep(250);
        }
        return worker;
    }

    /** What is submitted, with its libraries before Spark's. */
    static Object[] oursFirst(Object... arguments) {
        List<Object> all = new ArrayList<>();
        for (String side : List.of("driver", "executor")) {
            all.addAll(List.of("--conf", "spark." + side + ".userClassPathFirst=true"));
        }
        all.addAll(List.of(arguments));
        return all.toArray();
    }

    /**
     * Submits what is to run in this one process.
     *
     * @return its exit code
     */
    static int submit(Path log, Object... arguments) throws IOException, InterruptedException {
        Process process = submitted(log, arguments);
        if (!process.waitFor(5, TimeUnit.MINUTES)) {
            process.destroyForcibly();
        }
        return process.waitFor();
    }

    /** Submits what is to run in one process. */
    static Process submitted(Path log, Object... arguments) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                java(), "-cp", HOME + "/jars/*", "org.apache.spark.deploy.SparkSubmit", "--master", "local[2]"));
        List.of(arguments).forEach(a -> command.add(a.toString()));
        ProcessBuilder builder =
                new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(log.toFile());
        builder.environment().putAll(settings());
        return builder.start();
    }

    /** Kills a worker with its executors, with -9. */
    static void kill(Process worker) {
        List<ProcessHandle> executors = worker.descendants().toList();
        worker.destroyForcibly();
        executors.forEach(ProcessHandle::destroyForcibly);
    }

    /** What master, workers and executors have written. */
    String logs() {
        StringBuilder all = new StringBuilder();
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path file : files.filter(
                            f -> f.toString().endsWith(".log") || f.endsWith("stderr") || f.endsWith("stdout"))
                    .toList()) {
                all.append(file).append(File.separator).append('\n').append(Files.readString(file));
            }
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
        return all.toString();
    }

    @Override
    public void close() {
        workers.forEach(SparkCluster::kill);
        master.destroyForcibly();
    }
}
