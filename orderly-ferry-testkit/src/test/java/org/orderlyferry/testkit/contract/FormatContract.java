package org.orderlyferry.testkit.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.GrownFile;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.testkit.doubles.BytesSource;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.doubles.Samples;
import org.orderlyferry.testkit.faults.FaultyStreams;

/**
 * What every {@link FileFormat} keeps: what it has written it reads as it was, or it has refused it; it tells what fails, and
 * never takes half a file for a whole one.
 */
@Tag("everywhere")
public abstract class FormatContract extends OwnFormats {

    private static final int FEW = 7;

    private static String name(FileFormat format) {
        return "label." + format.endings().get(0);
    }

    private static BytesSource written(FileFormat format, ListedPlace place, FaultyStreams faults) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        Map<String, byte[]> besides = new HashMap<>();
        List<TableDefinition> tables =
                place.tables().stream().map(place::define).toList();
        try (TablesWriter file = format.write(faults.over(bytes), name(format), tables, FileSettings.NONE)) {
            for (TableDefinition table : tables) {
                RecordBatch batch = new RecordBatch();
                try (RecordReader reader = place.read(Slice.whole(table));
                        RecordWriter writer = file.writer(table)) {
                    while (reader.read(batch)) {
                        writer.write(batch);
                    }
                    writer.finish();
                }
            }
            file.finish();
            for (GrownFile grown : file.grownFiles()) {
                besides.put("label." + grown.ending(), Files.readAllBytes(grown.content()));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return new BytesSource(name(format), bytes.toByteArray(), besides, in -> in);
    }

    private static BytesSource written(FileFormat format, ListedPlace place) {
        return written(format, place, new FaultyStreams(0));
    }

    private static FileSettings settings(FileFormat format, FileSource file) {
        return format.complete(file, FileSettings.NONE);
    }

    private static TableDefinition asRead(FileFormat format, FileSource file, TableDefinition truth) {
        Outline outline;
        try {
            outline = format.outline(file, settings(format, file)).get(0);
        } catch (UsageException e) {
            // a file that tells nothing of its columns, which a description beside it does
            return truth;
        }
        if (outline.table().columns().size() < truth.columns().size()) {
            // nulls leave no trace in it
            return truth;
        }
        assertThat(outline.table().columns()).as(format.name()).hasSameSizeAs(truth.columns());
        // with the file's own names, which some formats shorten, and the types that a description gives
        TableDefinition.Builder table = TableDefinition.named(outline.table().name());
        for (int i = 0; i < truth.columns().size(); i++) {
            LogicalType type = outline.source() == Outline.Source.DEFINITIONS
                    ? outline.table().columns().get(i).type()
                    : truth.columns().get(i).type();
            table.column(outline.table().columns().get(i).name(), type);
        }
        return table.build();
    }

    private static void read(FileFormat format, FileSource file, TableDefinition truth, List<List<String>> rows) {
        TableDefinition table = asRead(format, file, truth);
        try (RecordReader reader =
                format.read(file, table, table.columnNames(), settings(format, file), Rejects.STOP)) {
            Contents.drain(reader, rows);
        }
    }

    private static List<String> read(FileFormat format, FileSource file, TableDefinition truth) {
        List<List<String>> rows = new ArrayList<>();
        read(format, file, truth, rows);
        return Contents.inOneForm(rows, truth);
    }

    private static List<String> truth(ListedPlace place) {
        return Contents.inOneForm(
                place.rows(place.tables().get(0)), place.define(place.tables().get(0)));
    }

    private static void mustBegin(List<String> truth, List<String> found, String when) {
        assertThat(found).as(when).isEqualTo(truth.subList(0, Math.min(truth.size(), found.size())));
    }

    @ParameterizedTest
    @MethodSource("formats")
    void itSaysWhatItIs(FileFormat format) {
        assertThat(format.name()).isNotBlank();
        assertThat(format.endings()).isNotEmpty().allMatch(e -> e.matches("[a-z0-9]+"));
        assertThat(format.keeps().definitions()).isNotBlank();
        assertThat(format.keeps().nulls()).isNotBlank();
        assertThat(format.keeps().values()).isNotBlank();
        assertThat(format.settings()).allSatisfy(s -> assertThat(s.meaning()).isNotBlank());
        assertThat(format.settings()).extracting(Setting::name).doesNotHaveDuplicates();
        assertThat(format.looksLike(new byte[0])).isFalse();
        for (FileFormat other : FileFormats.all()) {
            if (!other.name().equals(format.name())) {
                assertThat(Collections.disjoint(other.endings(), format.endings()))
                        .as(other.name())
                        .isTrue();
            }
        }
    }

    @ParameterizedTest
    @MethodSource("formats")
    void whatItWritesIsKnownAsItsOwn(FileFormat format) {
        FileSource file = written(format, Samples.labels());
        assertThat(FileFormats.of(file)).map(FileFormat::name).contains(format.name());
    }

    @ParameterizedTest
    @MethodSource("formats")
    void whatItWritesItReads(FileFormat format) {
        assertThat(read(format, written(format, Samples.labels()), Samples.LABEL))
                .isEqualTo(truth(Samples.labels()));
        assertThat(read(format, written(format, Samples.labels(1_000)), Samples.LABEL))
                .isEqualTo(truth(Samples.labels(1_000)));
    }

    @ParameterizedTest
    @MethodSource("formats")
    void noRecordsAreNoRecords(FileFormat format) {
        assertThat(read(format, written(format, Samples.labels(List.of())), Samples.LABEL))
                .isEmpty();
    }

    /** Each text alone, so that one that is refused hides no other. */
    @ParameterizedTest
    @MethodSource("formats")
    void aHostileTextComesBackOrIsRefused(FileFormat format) {
        int taken = 0;
        for (List<String> row : Samples.hostileLabels()) {
            ListedPlace one = Samples.labels(List.of(row));
            BytesSource content;
            try {
                content = written(format, one);
            } catch (BadValueException e) {
                assertThat(e.column()).isEqualTo("note");
                assertThat(e.getMessage()).contains("label");
                continue;
            }
            assertThat(read(format, content, Samples.LABEL)).as(row.get(1)).isEqualTo(truth(one));
            taken++;
        }
        assertThat(taken)
                .as("texts that are taken")
                .isGreaterThan(Samples.hostileLabels().size() / 2);
    }

    @ParameterizedTest
    @MethodSource("formats")
    void narrowAndWideTablesComeBackOrAreRefused(FileFormat format) {
        for (int width : List.of(1, 2, 250, 600)) {
            TableDefinition.Builder table = TableDefinition.named("label");
            for (int i = 0; i < width; i++) {
                table.column("c" + i, LogicalType.varchar(20));
            }
            ListedPlace place = new ListedPlace()
                    .with(
                            table.build(),
                            List.of(
                                    Collections.nCopies(width, "x"),
                                    Collections.nCopies(width, null),
                                    Collections.nCopies(width, ""),
                                    Collections.nCopies(width, "y")));
            BytesSource content;
            try {
                content = written(format, place);
            } catch (BadValueException | UsageException | PlaceException e) {
                assertThat(e.getMessage()).as("width " + width).contains("label");
                continue;
            }
            assertThat(read(format, content, table.build()))
                    .as("width " + width)
                    .isEqualTo(truth(place));
        }
    }

    @ParameterizedTest
    @MethodSource("formats")
    void aLongTextComesBackOrIsRefused(FileFormat format) {
        TableDefinition table = TableDefinition.named("label")
                .column("id", LogicalType.INTEGER)
                .column("note", LogicalType.CLOB)
                .build();
        for (String piece : List.of("a", "\"", "\u5c71", "\uD83C\uDF3F,\n")) {
            ListedPlace place =
                    new ListedPlace().with(table, List.of(List.of("1", piece.repeat(300_000 / piece.length()))));
            BytesSource content;
            try {
                content = written(format, place);
            } catch (BadValueException e) {
                assertThat(e.getMessage()).contains("note").hasSizeLessThan(1_000);
                continue;
            }
            assertThat(read(format, content, table)).isEqualTo(truth(place));
        }
    }

    /** Streams of real disks and networks give as much as they like at a time. */
    @ParameterizedTest
    @MethodSource("formats")
    void itReadsAFileThatComesInPieces(FileFormat format) {
        BytesSource content = written(format, Samples.labels());
        for (int most : List.of(1, FEW)) {
            List<List<String>> rows = new ArrayList<>();
            read(format, content.through(in -> new FaultyStreams(0).over(in, most)), Samples.LABEL, rows);
            assertThat(Contents.inOneForm(rows, Samples.LABEL)).isEqualTo(truth(Samples.labels()));
        }
    }

    /** A disk that fails isn't the file's end. */
    @ParameterizedTest
    @MethodSource("formats")
    void aFailingReadIsToldAndNeverTakenForTheEnd(FileFormat format) {
        BytesSource content = written(format, Samples.labels(40));
        List<String> truth = truth(Samples.labels(40));
        boolean struck = true;
        for (int fatal = 1; struck; fatal += 1 + fatal / 20) {
            FaultyStreams faults = new FaultyStreams(fatal);
            FileSource file = content.through(in -> faults.over(in, 500));
            List<List<String>> rows = new ArrayList<>();
            Optional<FerryException> told = Optional.empty();
            try {
                read(format, file, Samples.LABEL, rows);
            } catch (FerryException e) {
                told = Optional.of(e);
            }
            struck = faults.isStruck();
            if (told.isPresent()) {
                assertThat(told.get().getMessage()).as("call " + fatal).contains("label.");
                mustBegin(truth, Contents.inOneForm(rows, Samples.LABEL), "call " + fatal);
            } else {
                assertThat(Contents.inOneForm(rows, Samples.LABEL))
                        .as("call " + fatal)
                        .isEqualTo(truth);
            }
        }
    }

    @ParameterizedTest
    @MethodSource("formats")
    void aFailingWriteIsTold(FileFormat format) {
        boolean struck = true;
        for (int fatal = 1; struck; fatal += 1 + fatal / 20) {
            FaultyStreams faults = new FaultyStreams(fatal);
            Optional<FerryException> told = Optional.empty();
            BytesSource content = null;
            try {
                content = written(format, Samples.labels(40), faults);
            } catch (FerryException e) {
                told = Optional.of(e);
            }
            struck = faults.isStruck();
            assertThat(told.isPresent()).as("call " + fatal).isEqualTo(struck);
            if (struck) {
                assertThat(told.get()).isInstanceOf(PlaceException.class).hasMessageContaining("the disk is gone");
            } else {
                assertThat(read(format, content, Samples.LABEL)).isEqualTo(truth(Samples.labels(40)));
            }
        }
    }

    /** What is cut off can't always be seen, but it never changes the records before it. */
    @ParameterizedTest
    @MethodSource("formats")
    void aFileThatIsCutOffGivesNothingElseThanItHad(FileFormat format) {
        BytesSource whole = written(format, Samples.labels());
        List<String> truth = truth(Samples.labels());
        for (int length = 0; length < whole.bytes(); length += 1 + (int) whole.bytes() / 200) {
            List<List<String>> rows = new ArrayList<>();
            try {
                read(format, whole.with(Arrays.copyOf(whole.content(), length)), Samples.LABEL, rows);
            } catch (FerryException | AssertionError e) {
                // refused, or with fewer columns: a description would say so
                continue;
            }
            List<String> found = Contents.inOneForm(rows.subList(0, Math.max(0, rows.size() - 1)), Samples.LABEL);
            mustBegin(truth, found, "cut at " + length);
        }
    }

    @ParameterizedTest
    @MethodSource("formats")
    void aSettingThatItDoesntKnowIsRefusedByName(FileFormat format) {
        assertThatThrownBy(() -> format.check(FileSettings.NONE.with("mossiness", "7")))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("mossiness")
                .hasMessageContaining(format.name());
    }

    @ParameterizedTest
    @MethodSource("formats")
    void whateverASettingSaysItIsUsedOrRefused(FileFormat format) {
        FileSource file = written(format, Samples.labels());
        for (Setting setting : format.settings()) {
            for (String value : List.of("", "?", "-1", "0", "99999999999", "true|x", "\u0000", "\uD83C\uDF3F")) {
                FileSettings odd = FileSettings.NONE.with(setting.name(), value);
                try {
                    format.check(odd);
                    for (Outline outline : format.outline(file, format.complete(file, odd))) {
                        try (RecordReader reader = format.read(
                                file,
                                outline.table(),
                                outline.table().columnNames(),
                                format.complete(file, odd),
                                Rejects.UNHEARD)) {
                            Contents.drain(reader, new ArrayList<>());
                        }
                    }
                } catch (FerryException e) {
                    assertThat(e.getMessage()).as(setting.name() + "=" + value).isNotBlank();
                }
            }
        }
    }
}
