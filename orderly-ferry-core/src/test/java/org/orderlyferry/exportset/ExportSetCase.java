package org.orderlyferry.exportset;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.Rows;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.delimited.DelimitedFormat;
import org.orderlyferry.io.Compression;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;

/** A small set, and how it is written and read. */
abstract class ExportSetCase {

    @TempDir
    Path folder;

    static final List<List<String>> ROWS =
            List.of(List.of("1", "moss"), Arrays.asList("2", null), List.of("3", ""), List.of("4", "山, \"🌿\"\r\n"));

    static final TableDefinition LABEL = TableDefinition.named("label")
            .column("number", LogicalType.INTEGER)
            .column("text", LogicalType.varchar(200))
            .primaryKey("number")
            .build();

    static Loading begin(
            Path set, boolean overwrite, FileSettings settings, Compression compression, TableDefinition... tables) {
        return new SetTarget(set, new DelimitedFormat(), settings, compression, "test")
                .begin(List.of(tables), overwrite ? LoadMode.REPLACE : LoadMode.CREATE);
    }

    static void write(Path set, boolean overwrite, CsvDialect dialect, List<List<String>> rows) {
        try (Loading loading = begin(set, overwrite, dialect.settings(), Compression.NONE, LABEL)) {
            Written.Part part = write(loading, TablePart.whole(0, LABEL.name()), rows);
            loading.finish(
                    new Written(List.of(part), List.of(new LeftBehind("view", "labels_of_today", "a view")), Set.of()));
        }
    }

    static Written.Part write(Loading loading, TablePart part, List<List<String>> rows) {
        try (RecordWriter writer = loading.writer(part, () -> "a receipt")) {
            Tally tally = write(writer, rows);
            writer.finish();
            return new Written.Part(part, tally);
        }
    }

    static Tally write(RecordWriter writer, List<List<String>> rows) {
        TallyTaker taker = TallyTaker.of(LABEL.columns());
        RecordBatch batch = Rows.batch(rows, 2);
        taker.add(batch);
        writer.write(batch);
        return taker.tally();
    }

    Path written() {
        Path set = folder.resolve("set");
        write(set, false, CsvDialect.RFC_4180, ROWS);
        return set;
    }

    static List<List<String>> read(Path set) {
        ExportSet opened = ExportSet.open(set);
        opened.verify();
        return Rows.all(opened.read(Slice.whole(opened.define(LABEL.name()))));
    }

    static List<String> names(Path in) throws IOException {
        try (Stream<Path> all = Files.list(in)) {
            return all.map(p -> p.getFileName().toString()).sorted().toList();
        }
    }
}
