package org.orderlyferry.dist;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.spi.ToolProvider;
import java.util.stream.Stream;

/** Makes a Java runtime of those modules alone that the command line uses, out of the JDK that this runs in (JEP 282). */
public final class OwnRuntime {

    /**
     * What {@code jdeps} finds in our jars and those of drivers and libraries, but for a desktop's windows; and what is only
     * looked up: certificates of elliptic curves for TLS, character sets, zip files as file systems.
     */
    private static final List<String> MODULES = List.of(
            "java.base",
            "java.compiler",
            "java.instrument",
            "java.logging",
            "java.management",
            "java.naming",
            "java.net.http",
            "java.scripting",
            "java.security.jgss",
            "java.security.sasl",
            "java.sql",
            "java.transaction.xa",
            "java.xml",
            "jdk.charsets",
            "jdk.crypto.ec",
            "jdk.httpserver",
            "jdk.localedata",
            "jdk.security.auth",
            "jdk.security.jgss",
            "jdk.unsupported",
            "jdk.zipfs");

    private OwnRuntime() {}

    /**
     * Makes it.
     *
     * @param arguments the folder; what is there goes
     */
    public static void main(String[] arguments) throws IOException {
        Path folder = Path.of(arguments[0]);
        remove(folder);
        ToolProvider jlink = ToolProvider.findFirst("jlink")
                .orElseThrow(() -> new IllegalStateException("this Java has no jlink; a JDK is needed"));
        int code = jlink.run(
                System.out,
                System.err,
                "--add-modules",
                String.join(",", MODULES),
                "--include-locales",
                "en",
                "--strip-debug",
                "--no-header-files",
                "--no-man-pages",
                "--compress",
                Runtime.version().feature() < 21 ? "2" : "zip-6",
                "--output",
                folder.toString());
        if (code != 0) {
            throw new IllegalStateException("jlink has failed: " + code);
        }
    }

    private static void remove(Path folder) throws IOException {
        if (Files.exists(folder)) {
            try (Stream<Path> all = Files.walk(folder)) {
                for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(path);
                }
            }
        }
    }
}
