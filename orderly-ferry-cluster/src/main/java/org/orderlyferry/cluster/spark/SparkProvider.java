package org.orderlyferry.cluster.spark;

import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.work.RemoteEngine;

/**
 * Has a command run as a Spark application: where Spark's classes aren't there, by Spark's own program to submit applications,
 * which gets the very same command with all jars of this process. Ours come first there, each side with its own libraries.
 */
public final class SparkProvider implements RemoteEngine.Provider {

    private static final String HOME = "SPARK_HOME";
    private static final List<String> OURS_FIRST =
            List.of("spark.driver.userClassPathFirst", "spark.executor.userClassPathFirst");

    @Override
    public String name() {
        return "spark";
    }

    @Override
    public boolean isHere() {
        try {
            Class.forName("org.apache.spark.SparkContext", false, SparkProvider.class.getClassLoader());
        } catch (ClassNotFoundException e) {
            return false;
        }
        mustHaveOwnLibraries();
        return true;
    }

    /** Spark brings other versions of libraries that both use, and puts them first unless it is told. */
    private static void mustHaveOwnLibraries() {
        boolean submitted = System.getProperty("spark.submit.deployMode") != null;
        if (submitted && !OURS_FIRST.stream().allMatch(Boolean::getBoolean)) {
            throw new UsageException("Spark's libraries stand before those of this program; submit it with "
                    + OURS_FIRST.stream().map(s -> "--conf " + s + "=true").collect(Collectors.joining(" ")));
        }
    }

    @Override
    public RemoteEngine start() {
        return SparkEngine.start();
    }

    @Override
    public int again(Class<?> main, Optional<String> master, List<String> arguments) {
        String told = System.getenv(HOME);
        if (told == null || told.isBlank()) {
            throw new UsageException("Spark's own programs are needed to run on it: " + HOME
                    + " has to say where Spark is installed on this machine");
        }
        Path home = Path.of(told);
        List<String> command = submitting(home);
        master.ifPresent(m -> command.addAll(List.of("--master", m)));
        command.addAll(List.of("--name", "Orderly Ferry", "--class", main.getName()));
        command.addAll(List.of("--conf", "spark.log.level=WARN"));
        OURS_FIRST.forEach(setting -> command.addAll(List.of("--conf", setting + "=true")));
        List<String> jars = jars();
        String own = jars.stream()
                .filter(j -> j.equals(jarOf(main)))
                .findFirst()
                .orElseThrow(() -> new UsageException(
                        "only what stands in jars can be sent to other machines; this runs from folders of classes"));
        jars.remove(own);
        command.addAll(List.of("--jars", String.join(",", jars), own));
        command.addAll(arguments);
        try {
            return new ProcessBuilder(command).inheritIO().start().waitFor();
        } catch (IOException e) {
            throw new PlaceException(home.toString(), "Spark can't be started: " + e.getMessage(), e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new UsageException("interrupted", e);
        }
    }

    /** Its script, which reads its settings; or, where only its jars are there, the class that the script starts. */
    private static List<String> submitting(Path home) {
        Path script = home.resolve("bin").resolve("spark-submit");
        List<String> command = new ArrayList<>();
        if (Files.isExecutable(script)) {
            command.add(script.toString());
            return command;
        }
        if (!Files.isDirectory(home.resolve("jars"))) {
            throw new UsageException(HOME + " says " + home + ", where neither bin/spark-submit nor jars is");
        }
        command.addAll(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                // what it says before it has read its settings
                "-Dlog4j2.level=WARN",
                "-cp",
                home.resolve("conf") + File.pathSeparator + home.resolve("jars") + "/*",
                "org.apache.spark.deploy.SparkSubmit"));
        return command;
    }

    private static List<String> jars() {
        return Stream.of(System.getProperty("java.class.path").split(File.pathSeparator))
                .filter(e -> e.endsWith(".jar"))
                // the log is Spark's there
                .filter(e -> !Path.of(e).getFileName().toString().matches("(slf4j|logback)-.*"))
                .map(e -> Path.of(e).toAbsolutePath().normalize().toString())
                .collect(Collectors.toList());
    }

    private static String jarOf(Class<?> main) {
        try {
            return Path.of(main.getProtectionDomain()
                            .getCodeSource()
                            .getLocation()
                            .toURI())
                    .toAbsolutePath()
                    .normalize()
                    .toString();
        } catch (java.net.URISyntaxException e) {
            throw new IllegalStateException("where a class came from is always a URI", e);
        }
    }
}
