package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/**
 * What a process of its own gave, with a heap of its own.
 *
 * @param code the exit code
 * @param told all that it wrote
 */
public record FerryProcess(int code, String told) {

    /** Runs one to its end. */
    public static FerryProcess run(String heap, Object... arguments) throws Exception {
        Path log = Files.createTempFile("ferry", ".log");
        try {
            Process process = start(heap, ProcessBuilder.Redirect.to(log.toFile()), arguments);
            assertThat(process.waitFor(5, TimeUnit.MINUTES)).isTrue();
            return new FerryProcess(process.exitValue(), Files.readString(log));
        } finally {
            Files.delete(log);
        }
    }

    /** Starts one, with the options that the launcher gives. */
    public static Process start(String heap, ProcessBuilder.Redirect log, Object... arguments) throws IOException {
        return start(Main.class, heap, log, arguments);
    }

    /** Starts one of another main class. */
    public static Process start(Class<?> main, String heap, ProcessBuilder.Redirect log, Object... arguments)
            throws IOException {
        return start(main, List.of("-Xmx" + heap), log, arguments);
    }

    /** Starts one of another main class, with options of Java. */
    static Process start(Class<?> main, List<String> options, ProcessBuilder.Redirect log, Object... arguments)
            throws IOException {
        List<String> command = new ArrayList<>();
        command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
        command.addAll(options);
        command.addAll(List.of(
                "-XX:+UseSerialGC",
                // they live for seconds
                "-XX:TieredStopAtLevel=1",
                "-cp",
                System.getProperty("java.class.path"),
                main.getName()));
        for (Object argument : arguments) {
            command.add(argument.toString());
        }
        return new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(log)
                .start();
    }
}
