package org.orderlyferry.testkit.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.fail;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.testkit.doubles.Samples;
import org.orderlyferry.work.Load;

/**
 * Each format is given files of its own with bytes changed, cut, doubled and put elsewhere. Whatever they
 * hold, reading ends with records or in an error of ours. {@code -Dferry.mutations=5000} tries more than the few hundred of
 * each build; what a run has found stays among {@link #finds()}.
 */
@Tag("everywhere")
public abstract class MutatedFilesContract extends OwnFormats {

    private static final int TRIES = Integer.getInteger("ferry.mutations", 150);

    /** What parsers know and people seldom write. */
    private static final List<String> PIECES = List.of(
            "\"",
            "'",
            "\\",
            "\n",
            "\r",
            "\0",
            ",",
            ";",
            "{",
            "}",
            "[",
            "]",
            "<",
            ">",
            "&",
            "<!DOCTYPE a [",
            "<![CDATA[",
            "]]>",
            "--",
            "/*",
            "*/",
            "$$",
            "E'",
            "(",
            ")",
            "COPY x FROM stdin;\n",
            "\\.\n",
            "INSERT INTO",
            "CREATE TABLE",
            "1e999",
            "-",
            "\uFEFF",
            "\u00C0\u0080",
            "99999999999999999999",
            "\\u0000",
            "PK\u0003\u0004",
            "DELIMITER //",
            "ROLLBACK;");

    private Path folder;

    @BeforeAll
    void makeSamples(@TempDir Path given) throws Exception {
        folder = given;
        for (FileFormat format : formats().toList()) {
            try (TargetPlace target = Places.openTarget(sample(format).toString())) {
                Load.from(Samples.labels()).into(target);
            }
        }
        // what stands beside them would tell what the bytes don't any more
        try (Stream<Path> all = Files.list(folder)) {
            for (Path path : all.toList()) {
                if (path.toString().endsWith("-metadata.json")
                        || path.toString().endsWith(".schema.json")
                        || path.toString().endsWith(".xsd")) {
                    Files.delete(path);
                }
            }
        }
    }

    private Path sample(FileFormat format) {
        return folder.resolve("label." + format.endings().get(0));
    }

    @ParameterizedTest
    @MethodSource("formats")
    void aChangedFileIsReadOrRefused(FileFormat format) throws Exception {
        byte[] whole = Files.readAllBytes(sample(format));
        long seed = Long.getLong("ferry.seed", 20310409L);
        Random random = new Random(seed);
        for (int i = 0; i < TRIES; i++) {
            byte[] changed = whole;
            for (int change = 0; change <= random.nextInt(3); change++) {
                changed = changed(changed, random);
            }
            Path file = folder.resolve("mutated." + format.endings().get(0));
            Files.write(file, changed);
            read(file, format.name() + ", seed " + seed + ", try " + i);
        }
    }

    private static byte[] changed(byte[] bytes, Random random) {
        if (bytes.length == 0) {
            return new byte[] {(byte) random.nextInt(256)};
        }
        int at = random.nextInt(bytes.length);
        int length = Math.min(bytes.length - at, 1 + random.nextInt(40));
        ByteArrayOutputStream other = new ByteArrayOutputStream();
        switch (random.nextInt(6)) {
            case 0 -> {
                byte[] flipped = bytes.clone();
                flipped[at] ^= (byte) (1 << random.nextInt(8));
                return flipped;
            }
            case 1 -> {
                return Arrays.copyOf(bytes, at);
            }
            case 2 -> {
                // doubled
                other.write(bytes, 0, at + length);
                other.write(bytes, at, bytes.length - at);
            }
            case 3 -> {
                // taken out
                other.write(bytes, 0, at);
                other.write(bytes, at + length, bytes.length - at - length);
            }
            case 4 -> {
                byte[] piece = PIECES.get(random.nextInt(PIECES.size())).getBytes(StandardCharsets.UTF_8);
                other.write(bytes, 0, at);
                other.writeBytes(piece);
                other.write(bytes, at, bytes.length - at);
            }
            default -> {
                byte[] random0 = bytes.clone();
                random0[at] = (byte) random.nextInt(256);
                return random0;
            }
        }
        return other.toByteArray();
    }

    private static void read(Path file, String which) throws IOException {
        long[] rejected = {0};
        Rejects rejects = why -> rejected[0]++;
        long before = System.nanoTime();
        try (Place place = Places.open(
                PlaceAddress.of(file), OpenOptions.builder().rejects(rejects).build())) {
            for (TableName table : place.tables()) {
                long rows = 0;
                RecordBatch batch = new RecordBatch();
                try (RecordReader reader = place.read(Slice.whole(place.define(table)))) {
                    while (reader.read(batch)) {
                        rows += batch.rows();
                    }
                }
                assertThat(rows).as(which).isLessThan(1_000);
            }
            place.leftBehind();
        } catch (FerryException e) {
            assertThat(e.getMessage()).as(which).isNotBlank();
        } catch (RuntimeException | Error e) {
            Path kept = Files.createTempFile("mutated-", "-" + file.getFileName());
            Files.copy(file, kept, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
            fail(which + " failed with " + e + "; the file: " + kept, e);
        }
        assertThat(System.nanoTime() - before).as(which).isLessThan(20_000_000_000L);
    }

    /** Files that have broken a reader of this module once, each as short as it could be made: a name, a bar, and the bytes. */
    protected abstract List<String> finds();

    @Test
    void whatOnceBrokeAReaderIsReadOrRefused() throws Exception {
        for (String find : finds()) {
            int bar = find.indexOf('|');
            Path file = Files.writeString(folder.resolve("find-" + find.substring(0, bar)), find.substring(bar + 1));
            read(file, find);
        }
    }
}
