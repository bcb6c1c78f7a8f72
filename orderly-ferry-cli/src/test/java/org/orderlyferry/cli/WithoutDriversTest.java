package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Drivers are for those who use the library to bring along: where one is missing, that is said, and all else works. */
class WithoutDriversTest {

    @TempDir
    private Path folder;

    private String said(Object... arguments) throws Exception {
        String path = Stream.of(System.getProperty("java.class.path").split(File.pathSeparator))
                .filter(p -> !p.matches(".*/(h2|sqlite-jdbc|postgresql|mariadb-java-client)-[0-9.]+\\.jar"))
                .collect(Collectors.joining(File.pathSeparator));
        List<String> command = Stream.concat(
                        Stream.of(
                                Path.of(System.getProperty("java.home"), "bin", "java")
                                        .toString(),
                                "-cp",
                                path,
                                Main.class.getName()),
                        Stream.of(arguments).map(Object::toString))
                .toList();
        Path log = folder.resolve("log");
        Process process = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(log.toFile())
                .start();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        return process.exitValue() + " " + Files.readString(log);
    }

    @ParameterizedTest
    @CsvSource({
        "jdbc:postgresql://localhost:1/old, PostgreSQL, org.postgresql:postgresql",
        "jdbc:mariadb://localhost:1/old, MariaDB, org.mariadb.jdbc:mariadb-java-client",
        "jdbc:h2:./old, H2, com.h2database:h2"
    })
    void aDriverThatIsMissingIsNamed(String url, String system, String driver) throws Exception {
        assertThat(said("look", url))
                .isEqualTo("2 ferry: " + url + " can't be opened without " + system + "'s driver, the package " + driver
                        + ", on the class path\n");
    }

    @Test
    void aDatabaseThatWouldBeMadeIsNot() throws Exception {
        Path csv = Files.writeString(folder.resolve("label.csv"), "id\n1\n");
        Path made = folder.resolve("made.sqlite");
        assertThat(said("load", csv, made)).startsWith("2 ").contains("org.xerial:sqlite-jdbc");
        assertThat(made).doesNotExist();
        assertThat(said("convert", csv, folder.resolve("label.jsonl"))).startsWith("0 ");
    }
}
