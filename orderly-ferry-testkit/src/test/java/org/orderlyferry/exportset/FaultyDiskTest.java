package org.orderlyferry.exportset;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.io.Compression;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.doubles.Samples;
import org.orderlyferry.testkit.faults.FaultyDisk;
import org.orderlyferry.work.Export;

/** Whatever call to the disk fails: a set is whole or not there, an older one is kept, and the next export goes on. */
class FaultyDiskTest {

    @TempDir
    private Path folder;

    private static List<String> labels(Path set) {
        try (Place place = Places.open(set.toString())) {
            place.verify();
            return Contents.sorted(place, TableName.of("label"), Samples.LABEL);
        }
    }

    private static List<String> labels(ListedPlace place) {
        return Contents.sorted(place.rows(Samples.label()), Samples.LABEL);
    }

    private List<String> hidden() throws Exception {
        List<String> names = new ArrayList<>();
        try (Stream<Path> all = Files.list(folder)) {
            all.map(p -> p.getFileName().toString())
                    .filter(n -> n.startsWith("."))
                    .forEach(names::add);
        }
        return names;
    }

    private static void export(ListedPlace source, Path set, Compression compression) {
        Export.from(source)
                .compression(compression)
                .overwrite(true)
                .sliceRows(2)
                .to(set);
    }

    @ParameterizedTest
    @CsvSource({"set, NONE", "set, GZIP", "set, ZSTD", "set.zip, NONE", "set.tar.gz, NONE", "set.tar.zst, NONE"})
    void aNewSetIsWholeOrNotThere(String name, Compression compression) throws Exception {
        Path set = folder.resolve(name);
        boolean struck = true;
        int points = 0;
        for (int fatal = 1; struck; fatal += 1 + fatal / 25) {
            FaultyDisk disk = new FaultyDisk(FileSystems.getDefault(), fatal);
            Optional<String> told = Optional.empty();
            try {
                export(Samples.labels(), disk.over(set), compression);
            } catch (FerryException e) {
                told = Optional.of(e.getMessage());
            }
            struck = !disk.struck().isEmpty();
            String when = "call " + fatal + " " + disk.struck() + ": " + told;
            if (Files.exists(set)) {
                assertThat(labels(set)).as(when).isEqualTo(labels(Samples.labels()));
            } else {
                assertThat(told).as(when).isPresent();
            }
            mustBeCleared(set, disk, told.orElse(""), when);
            points++;
        }
        assertThat(points).isGreaterThan(20);
    }

    @ParameterizedTest
    @ValueSource(strings = {"set", "set.zip"})
    void anOlderSetIsKeptUntilTheNewOneIsThere(String name) throws Exception {
        Path set = folder.resolve(name);
        boolean struck = true;
        for (int fatal = 1; struck; fatal += 1 + fatal / 25) {
            export(Samples.labels(3), set, Compression.NONE);
            FaultyDisk disk = new FaultyDisk(FileSystems.getDefault(), fatal);
            Optional<String> told = Optional.empty();
            try {
                export(Samples.labels(), disk.over(set), Compression.NONE);
            } catch (FerryException e) {
                told = Optional.of(e.getMessage());
            }
            struck = !disk.struck().isEmpty();
            String when = "call " + fatal + " " + disk.struck() + ": " + told;
            if (told.isPresent()) {
                assertThat(labels(set)).as(when).isIn(labels(Samples.labels(3)), labels(Samples.labels()));
            } else {
                assertThat(labels(set)).as(when).isEqualTo(labels(Samples.labels()));
            }
            mustBeCleared(set, disk, told.orElse(""), when);
        }
    }

    /** What can't be removed is told, and gone with the next export. */
    private void mustBeCleared(Path set, FaultyDisk disk, String told, String when) throws Exception {
        if (!hidden().isEmpty()) {
            assertThat(disk.struck()).as(when).isIn("delete", "close", "move");
        }
        export(Samples.labels(), set, Compression.NONE);
        assertThat(labels(set)).as("the export after " + when).isEqualTo(labels(Samples.labels()));
        for (String left : hidden()) {
            // an empty folder may be one that another export has begun this moment; it goes when it is older
            assertThat(folder.resolve(left)).as(when).isEmptyDirectory();
            Files.delete(folder.resolve(left));
        }
        delete(set);
    }

    private static void delete(Path set) throws Exception {
        List<Path> all;
        try (Stream<Path> paths = Files.walk(set)) {
            all = paths.sorted(java.util.Comparator.reverseOrder()).toList();
        }
        for (Path path : all) {
            Files.delete(path);
        }
    }
}
