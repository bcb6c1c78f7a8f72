package org.orderlyferry.file;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.io.Compression;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.doubles.Samples;
import org.orderlyferry.testkit.faults.FaultyDisk;
import org.orderlyferry.work.Load;

/** Whatever call to the disk fails: a file is whole or not there, and an older one is kept. */
class FaultyDiskFilesTest {

    @TempDir
    private Path folder;

    static Stream<Arguments> files() {
        return FileFormats.all().stream()
                .flatMap(f -> Stream.of(Compression.values()).map(c -> Arguments.of(f, c)));
    }

    private static void load(ListedPlace source, Path file, FileFormat format, Compression compression) {
        Load.from(source).mode(LoadMode.REPLACE).into(new FileTarget(file, format, compression, FileSettings.NONE));
    }

    private static List<String> labels(Path file) {
        try (Place place = Places.open(file.toString())) {
            return Contents.sorted(place, place.tables().get(0), Samples.LABEL);
        }
    }

    private static List<String> labels(ListedPlace place) {
        return Contents.sorted(place.rows(Samples.label()), Samples.LABEL);
    }

    @ParameterizedTest
    @MethodSource("files")
    void aFileIsTheOldOneOrTheNewOneAndTheMessageSaysWhich(FileFormat format, Compression compression)
            throws Exception {
        Path file = folder.resolve("label." + format.endings().get(0) + compression.ending());
        boolean struck = true;
        for (int fatal = 1; struck; fatal++) {
            load(Samples.labels(3), file, format, compression);
            FaultyDisk disk = new FaultyDisk(FileSystems.getDefault(), fatal);
            Optional<String> told = Optional.empty();
            try {
                load(Samples.labels(), disk.over(file), format, compression);
            } catch (FerryException e) {
                told = Optional.of(e.getMessage());
            }
            struck = !disk.struck().isEmpty();
            String when = "call " + fatal + " " + disk.struck() + ": " + told;
            assertThat(labels(file))
                    .as(when)
                    .isEqualTo(labels(told.isPresent() ? Samples.labels(3) : Samples.labels()));
        }
        try (Stream<Path> all = Files.list(folder)) {
            load(Samples.labels(), file, format, compression);
            assertThat(all.filter(p -> p.getFileName().toString().startsWith(".")))
                    .isEmpty();
        }
    }

    @ParameterizedTest
    @MethodSource("files")
    void aNewFileIsWholeOrNotThere(FileFormat format, Compression compression) throws Exception {
        boolean struck = true;
        for (int fatal = 1; struck; fatal++) {
            Path file = folder.resolve(fatal + "/label." + format.endings().get(0) + compression.ending());
            FaultyDisk disk = new FaultyDisk(FileSystems.getDefault(), fatal);
            Optional<String> told = Optional.empty();
            try {
                load(Samples.labels(), disk.over(file), format, compression);
            } catch (FerryException e) {
                told = Optional.of(e.getMessage());
            }
            struck = !disk.struck().isEmpty();
            String when = "call " + fatal + " " + disk.struck() + ": " + told;
            if (told.isPresent()) {
                assertThat(file).as(when).doesNotExist();
            } else {
                assertThat(labels(file)).as(when).isEqualTo(labels(Samples.labels()));
            }
        }
    }
}
