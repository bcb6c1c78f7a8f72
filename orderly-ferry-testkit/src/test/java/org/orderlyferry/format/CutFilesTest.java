package org.orderlyferry.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.orderlyferry.format.delimited.DelimitedFormat;
import org.orderlyferry.format.json.JsonLinesFormat;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** A file that is cut anywhere gives the same records, on the same lines, as one that is read from end to end. */
class CutFilesTest {

    private static final TableDefinition TABLE = TableDefinition.named("label")
            .column("id", LogicalType.CLOB)
            .column("text", LogicalType.CLOB)
            .build();

    /** A file of a test's own, on the disk. */
    private record Written(Path path) implements FileSource {

        static Written of(String ending, byte[] content) {
            try {
                Path path = Files.createTempFile("cut", ending);
                path.toFile().deleteOnExit();
                return new Written(Files.write(path, content));
            } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
            }
        }

        @Override
        public String shown() {
            return "label";
        }

        @Override
        public String name() {
            return path.getFileName().toString();
        }

        @Override
        public InputStream open() throws IOException {
            return Files.newInputStream(path);
        }

        @Override
        public Optional<FileSource> beside(String name) {
            return Optional.empty();
        }

        @Override
        public Optional<Path> onDisk() {
            return Optional.of(path);
        }

        @Override
        public long bytes() {
            return path.toFile().length();
        }
    }

    /** Records with their lines, and what was rejected. */
    private static List<String> read(FileFormat format, FileSource file, FilePiece piece, FileSettings settings) {
        List<String> found = new ArrayList<>();
        Rejects rejects = e -> found.add(e.getMessage());
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader =
                format.read(file, piece, TABLE, TABLE.columnNames(), format.complete(file, settings), rejects)) {
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    found.add(batch.origin(row).line() + " " + batch.text(row, 0) + " " + batch.text(row, 1));
                }
            }
        } catch (FerryException e) {
            found.add("stopped: " + e.getMessage());
        }
        return found;
    }

    private static List<FilePiece> mustBeTheSame(
            FileFormat format, FileSource file, FileSettings settings, long bytes) {
        List<FilePiece> pieces = format.cut(file, format.complete(file, settings), bytes);
        List<String> apart = new ArrayList<>();
        pieces.forEach(p -> apart.addAll(read(format, file, p, settings)));
        // what is rejected comes as it is found, before the records of its batch
        assertThat(apart).containsExactlyInAnyOrderElementsOf(read(format, file, FilePiece.ALL, settings));
        return pieces;
    }

    @Provide
    Arbitrary<String> values() {
        Arbitrary<String> odd = Arbitraries.of(
                "",
                "\"\"",
                "\"a,b\"",
                "\"line\nend\"",
                "\"line\r\nend\"",
                "\"\"\"\"",
                "é",
                "日本",
                "x\"y",
                "\"z\"q",
                "\uFEFF",
                "\"\n\n\n\"",
                "\"a\"\"\n\"\"b\"");
        return Arbitraries.frequencyOf(
                net.jqwik.api.Tuple.of(3, odd),
                net.jqwik.api.Tuple.of(5, Arbitraries.strings().alpha().ofMaxLength(20)));
    }

    @Provide
    Arbitrary<String> files() {
        Arbitrary<String> ends = Arbitraries.of("\n", "\r\n", "\r");
        Arbitrary<String> record =
                Combinators.combine(values(), values(), ends).as((id, text, end) -> id + "," + text + end);
        Arbitrary<String> beginnings = Arbitraries.of("", "\uFEFF");
        return Combinators.combine(beginnings, record.list().ofMaxSize(60), values(), values())
                .as((mark, records, id, text) -> mark + "id,text\n" + String.join("", records) + id + "," + text);
    }

    @Property(tries = 300)
    void delimitedText(@ForAll("files") String text, @ForAll @IntRange(min = 1, max = 200) int bytes) {
        mustBeTheSame(
                new DelimitedFormat(),
                Written.of(".csv", text.getBytes(StandardCharsets.UTF_8)),
                FileSettings.NONE.with("delimiter", ","),
                bytes);
    }

    @Property(tries = 100)
    void delimitedTextWithoutNames(@ForAll("files") String text, @ForAll @IntRange(min = 1, max = 200) int bytes) {
        mustBeTheSame(
                new DelimitedFormat(),
                Written.of(".csv", text.getBytes(StandardCharsets.UTF_8)),
                FileSettings.NONE.with("delimiter", ",").with("header", "false"),
                bytes);
    }

    @Provide
    Arbitrary<String> objects() {
        Arbitrary<String> texts = Arbitraries.of(
                "\"}\\n{\"",
                "\"\"",
                "\"é\"",
                "null",
                "\"}\"",
                "\"{\"",
                "[{\"a\":1},\n{\"b\":2}]",
                "{\n\"c\":\n{}\n}",
                "1.50");
        Arbitrary<String> between = Arbitraries.of("\n", "\r\n", "\r", " ", "", "\n\n  ", "\n\t");
        return Combinators.combine(texts, between)
                .as((text, end) -> "{\"id\": \"7\", \"text\": " + text + "}" + end)
                .list()
                .ofMinSize(1)
                .ofMaxSize(60)
                .map(all -> String.join("", all));
    }

    @Property(tries = 300)
    void objectsOneAfterTheOther(@ForAll("objects") String text, @ForAll @IntRange(min = 1, max = 200) int bytes) {
        mustBeTheSame(
                new JsonLinesFormat(),
                Written.of(".jsonl", text.getBytes(StandardCharsets.UTF_8)),
                FileSettings.NONE.with("shape", "lines"),
                bytes);
    }

    @Test
    void aLargeFileOfManyChunksIsCutIntoManyPieces() {
        Random random = new Random(5);
        StringBuilder text = new StringBuilder("id,text\r\n");
        for (int i = 0; i < 60_000; i++) {
            text.append(i).append(",\"").append("word ".repeat(random.nextInt(12)));
            text.append(random.nextInt(5) == 0 ? "\r\n\"\"" : "").append("\"\r\n");
        }
        Written file = Written.of(".csv", text.toString().getBytes(StandardCharsets.UTF_8));
        assertThat(mustBeTheSame(
                        new DelimitedFormat(), file, FileSettings.NONE.with("delimiter", ","), file.bytes() / 10 + 1))
                .hasSizeBetween(9, 10);
    }

    @Test
    void aRecordLargerThanAPieceStaysWhole() {
        String text = "id,text\n1,\"" + "x\n".repeat(2_000_000) + "\"\n2,b\n3,c\n";
        assertThat(mustBeTheSame(
                        new DelimitedFormat(),
                        Written.of(".csv", text.getBytes(StandardCharsets.UTF_8)),
                        FileSettings.NONE.with("delimiter", ","),
                        4))
                .hasSize(4);
    }

    @Test
    void whatHasNoPlacesToCutIsOnePiece() {
        DelimitedFormat format = new DelimitedFormat();
        byte[] utf16 = "id,text\n1,a\n2,b\n".getBytes(StandardCharsets.UTF_16);
        assertThat(mustBeTheSame(format, Written.of(".csv", utf16), FileSettings.NONE, 3))
                .hasSize(1);
        byte[] open = "id,text\n1,a\n2,b\n3,\"c\n".getBytes(StandardCharsets.UTF_8);
        assertThat(mustBeTheSame(format, Written.of(".csv", open), FileSettings.NONE, 3))
                .hasSize(1);
        byte[] array =
                "[{\"id\":\"1\",\"text\":\"a\"}\n,{\"id\":\"2\",\"text\":\"b\"}]".getBytes(StandardCharsets.UTF_8);
        assertThat(mustBeTheSame(new JsonLinesFormat(), Written.of(".jsonl", array), FileSettings.NONE, 3))
                .hasSize(1);
    }
}
