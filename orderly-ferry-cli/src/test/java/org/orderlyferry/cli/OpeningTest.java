package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.progress.StopSignal;

/** Who waits for a file to be read through is told. */
class OpeningTest {

    @TempDir
    private Path folder;

    private static Ferry look(Path file) {
        return Ferry.run(
                new Terminal(true, true, Colour.NEVER, 100),
                new StopSignal(),
                "look",
                file.toString(),
                "--setting",
                "dialect=sqlite");
    }

    @Test
    void aLongScriptIsToldToBeReadAndAShortOneIsNot() throws Exception {
        Path file = folder.resolve("dump.sql");
        try (BufferedWriter out = Files.newBufferedWriter(file)) {
            for (int table = 0; table < 25; table++) {
                out.write("CREATE TABLE t" + table + " (n INTEGER, note VARCHAR(40));\n");
                for (int i = 0; i < 30_000; i++) {
                    out.write("INSERT INTO t" + table + " VALUES (" + i + ", 'moss; it''s green');\n");
                }
            }
        }
        Ferry look = look(file);
        assertThat(look.code()).as(look.err()).isZero();
        assertThat(look.err()).contains("finding out what ", "dump.sql holds  ").endsWith("\r\u001b[K");
        Path small = Files.writeString(folder.resolve("small.sql"), "CREATE TABLE t (n INTEGER);\n");
        assertThat(look(small).err()).isEmpty();
    }
}
