package org.orderlyferry.dist;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The same sources, built a second time in another folder, come to the same bytes. */
class ReproducibleTest {

    private static final Set<String> NOT_SOURCES = Set.of("target", ".git", ".idea");

    @TempDir
    private Path folder;

    @Test
    void aSecondBuildComesToTheSameBytes() throws Exception {
        Path home = Path.of("..").toRealPath();
        copy(home, folder);
        Path log = folder.resolve("build.log");
        Process maven = new ProcessBuilder(
                        "mvn",
                        "-B",
                        "-o",
                        "-q",
                        "-DskipTests",
                        "-Dmaven.test.skip",
                        "-Dspotless.check.skip",
                        "-Dforbiddenapis.skip",
                        "package",
                        "-pl",
                        "orderly-ferry-core",
                        "-am")
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .redirectOutput(log.toFile())
                .start();
        assertThat(maven.waitFor(300, TimeUnit.SECONDS)).isTrue();
        assertThat(maven.exitValue()).as(Files.readString(log)).isZero();
        // one module tells, since all are built by the same plugins
        String jar = "orderly-ferry-core/target/orderly-ferry-core-0.1.0-SNAPSHOT.jar";
        assertThat(Files.mismatch(home.resolve(jar), folder.resolve(jar))).isEqualTo(-1);
    }

    private static void copy(Path from, Path to) throws IOException {
        Files.walkFileTree(from, new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult preVisitDirectory(Path dir, BasicFileAttributes attributes) throws IOException {
                if (!dir.equals(from) && NOT_SOURCES.contains(dir.getFileName().toString())) {
                    return FileVisitResult.SKIP_SUBTREE;
                }
                Files.createDirectories(to.resolve(from.relativize(dir)));
                return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) throws IOException {
                if (!file.toString().contains("/src/test/") && !file.toString().endsWith(".png")) {
                    Files.copy(file, to.resolve(from.relativize(file)));
                }
                return FileVisitResult.CONTINUE;
            }
        });
    }
}
