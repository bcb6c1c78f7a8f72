package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedOutputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Files that are larger than the heap: they go through where their records are small, and else are told of. */
class HugeFilesTest {

    private static final String HEAP = "64m";

    @TempDir
    private Path folder;

    private Path file(String name, String before, String piece, int times, String behind) throws Exception {
        Path file = folder.resolve(name);
        byte[] bytes = piece.getBytes(StandardCharsets.UTF_8);
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file))) {
            out.write(before.getBytes(StandardCharsets.UTF_8));
            for (int i = 0; i < times; i++) {
                out.write(bytes);
            }
            out.write(behind.getBytes(StandardCharsets.UTF_8));
        }
        return file;
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '!',
            quoteCharacter = '~',
            value = {
                "csv!id,note\\n1,\"!\"\\n2,fern\\n!line 2",
                "psv!id|note\\n1|!\\n2|fern\\n!line 2",
                "jsonl!{\"id\":1,\"note\":\"!\"}\\n!holds a value",
                "xml!<l><row><note>!</note></row></l>!holds a value",
                "sql!-- PostgreSQL database dump\\nCREATE TABLE label (note text);\\nINSERT INTO label VALUES ('!');\\n!a value"
            })
    void aLineOf150MegabytesIsToldOf(String ending, String before, String behind, String told) throws Exception {
        Path file = file(
                "label." + ending,
                before.replace("\\n", "\n"),
                "moss ".repeat(200_000),
                150,
                behind.replace("\\n", "\n"));
        Path to = folder.resolve("out.csv");
        FerryProcess ferry = FerryProcess.run(HEAP, "convert", file.toString(), to.toString());
        assertThat(ferry.code()).as(ferry.told()).isEqualTo(3);
        assertThat(ferry.told()).startsWith("ferry: " + file).contains(told).contains("-Xmx");
        assertThat(to).doesNotExist();
    }

    @Test
    void oneStatementOf100MegabytesGoesThrough() throws Exception {
        Path file = file(
                "label.sql",
                "-- PostgreSQL database dump\nCREATE TABLE label (id integer, note text);\nINSERT INTO label (id, note) VALUES\n (0, 'first; (one)')",
                ",\n (1, 'moss, and '' fern'' -- (no comment')".repeat(1_000),
                2_400,
                ";\n-- PostgreSQL database dump complete\n");
        Path to = folder.resolve("label.csv");
        FerryProcess ferry = FerryProcess.run(HEAP, "convert", file.toString(), to.toString());
        assertThat(ferry.code()).as(ferry.told()).isZero();
        assertThat(ferry.told()).contains("All 2,400,001 records are in");
        try (var lines = Files.lines(to)) {
            assertThat(lines.skip(2_400_001)).containsExactly("1,\"moss, and ' fern' -- (no comment\"");
        }
    }
}
