package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

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

    public static FerryProcess run(String heap, String... arguments) throws Exception {
        Path log = Files.createTempFile("ferry", ".log");
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx" + heap,
                // as the launcher has it
                "-XX:+UseSerialGC",
                "-cp",
                System.getProperty("java.class.path"),
                "org.orderlyferry.cli.Main"));
        command.addAll(List.of(arguments));
        try {
            Process process = new ProcessBuilder(command)
                    .redirectErrorStream(true)
                    .redirectOutput(log.toFile())
                    .start();
            assertThat(process.waitFor(5, TimeUnit.MINUTES)).isTrue();
            return new FerryProcess(process.exitValue(), Files.readString(log));
        } finally {
            Files.delete(log);
        }
    }
}
