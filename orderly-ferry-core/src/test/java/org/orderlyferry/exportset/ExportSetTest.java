package org.orderlyferry.exportset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.google.common.jimfs.Configuration;
import com.google.common.jimfs.Jimfs;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.file.FileSystem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.orderlyferry.Rows;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.LineEnd;
import org.orderlyferry.io.Compression;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.tally.TallyTaker;

@Tag("everywhere")
class ExportSetTest extends ExportSetCase {

    @Test
    void aSetKeepsRecordsDefinitionsTalliesAndWhatWasLeftBehind() {
        Path set = written();
        ExportSet opened = ExportSet.open(set);
        assertThat(read(set)).isEqualTo(ROWS);
        assertThat(opened.define(LABEL.name())).isEqualTo(LABEL);
        assertThat(opened.count(LABEL.name())).isEqualTo(4);
        assertThat(opened.keptTally(LABEL.name()).orElseThrow().rows()).isEqualTo(4);
        assertThat(opened.leftBehind()).containsExactly(new LeftBehind("view", "labels_of_today", "a view"));
    }

    @Test
    void everyDialectIsReadBackByWhatTheSetSaysOfIt() {
        List<CsvDialect> dialects = List.of(
                CsvDialect.RFC_4180.withDelimiter('\t').withLineEnd(LineEnd.LF).withNullText("\\N"),
                CsvDialect.RFC_4180.withDelimiter(';').withQuote('\'').withHeader(false),
                CsvDialect.RFC_4180.withEncoding(java.nio.charset.StandardCharsets.UTF_16),
                CsvDialect.RFC_4180.withEncoding(Charset.forName("GB18030")).withLineEnd(LineEnd.CR));
        for (CsvDialect dialect : dialects) {
            Path set = folder.resolve("set" + dialects.indexOf(dialect));
            write(set, false, dialect, ROWS);
            assertThat(read(set)).as(dialect.toString()).isEqualTo(ROWS);
        }
    }

    @Test
    void aCharacterThatAnEncodingLacksIsToldOfAndNoSetIsLeft() throws IOException {
        Path set = folder.resolve("narrow");
        assertThatThrownBy(() ->
                        write(set, false, CsvDialect.RFC_4180.withEncoding(Charset.forName("windows-1252")), ROWS))
                .isInstanceOf(BadValueException.class)
                .hasMessageContaining(
                        "column text: '山, \"🌿\"\\r\\n' can't be written in windows-1252, which has no 山 (U+5C71)");
        assertThat(names(folder)).isEmpty();
    }

    @Test
    void allThatADefinitionHoldsComesBack() {
        TableDefinition full = TableDefinition.named(new TableName("Old House", "Exchange \"Partner\"/1"))
                .column(ColumnDefinition.named("id", LogicalType.BIGINT)
                        .nullable(false)
                        .identity(Optional.of(new Identity(true, 5, 2, 417)))
                        .build())
                .column(ColumnDefinition.named("Größe in %", LogicalType.decimal(38, 10))
                        .defaultValue(Optional.of(new ColumnDefault.Literal("1.5000000000")))
                        .comment("a comment, with \"quotes\"\nand lines")
                        .build())
                .column(ColumnDefinition.named("_seen", LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 6))
                        .defaultValue(Optional.of(new ColumnDefault.Expression("CURRENT_TIMESTAMP", SqlText.ISO)))
                        .build())
                .column(ColumnDefinition.named("kind", LogicalType.varchar(5))
                        .enumeration(Optional.of(new Enumeration("mood", List.of("wet", "dry, \"or\""))))
                        .collation("\"C\"")
                        .sourceType("mood")
                        .build())
                .column(ColumnDefinition.named("twice", LogicalType.INTEGER)
                        .generation(Optional.of(new GenerationRule(new SqlText("id * 2", "PostgreSQL"), true)))
                        .build())
                .column("parts", LogicalType.arrayOf(LogicalType.INTEGER))
                .primaryKey(new Key("the key", List.of("id", "Größe in %")))
                .unique(new Key("", List.of("_seen")))
                .unique(new Key("two", List.of("_seen", "id")))
                .foreignKey(new ForeignKey(
                        "to itself",
                        List.of("id"),
                        new TableName("Old House", "Exchange \"Partner\"/1"),
                        List.of("id"),
                        ReferentialAction.CASCADE,
                        ReferentialAction.SET_NULL))
                .foreignKey(new ForeignKey(
                        "",
                        List.of("id"),
                        TableName.of("elsewhere"),
                        List.of("x"),
                        ReferentialAction.NO_ACTION,
                        ReferentialAction.RESTRICT,
                        Deferrability.INITIALLY_DEFERRED))
                .index(new IndexDefinition(
                        "partly",
                        true,
                        List.of(
                                IndexDefinition.Part.of(new SqlText("lower(kind)", "PostgreSQL"), true),
                                new IndexDefinition.Part("kind", Optional.empty(), false, 3)),
                        Optional.of(new SqlText("id > 3", "PostgreSQL")),
                        Optional.of(new SqlText("USING gin (kind)", "PostgreSQL"))))
                .system("PostgreSQL")
                .check(new CheckConstraint("positive", "\"id\" > 0", "H2"))
                .index(new IndexDefinition(
                        "by size",
                        true,
                        List.of(new IndexDefinition.Part("Größe in %", true), new IndexDefinition.Part("id", false))))
                .comment("the whole table")
                .build();
        TableDefinition other = TableDefinition.named(new TableName("Old House", "exchange \"partner\"?1"))
                .column("a", LogicalType.CLOB)
                .build();
        Path set = folder.resolve("full");
        try (Loading loading = begin(set, false, FileSettings.NONE, Compression.NONE, full, other)) {
            List<Written.Part> parts = new ArrayList<>();
            for (TableDefinition table : List.of(full, other)) {
                TablePart part = TablePart.whole(parts.size(), table.name());
                try (RecordWriter writer = loading.writer(part, () -> "")) {
                    writer.finish();
                }
                parts.add(new Written.Part(part, TallyTaker.of(table.columns()).tally()));
            }
            loading.finish(new Written(parts, List.of(), Set.of()));
        }
        ExportSet opened = ExportSet.open(set);
        opened.verify();
        assertThat(opened.define(full.name())).isEqualTo(full);
        assertThat(opened.define(other.name())).isEqualTo(other);
    }

    @Test
    void anExistingSetIsKeptUnlessToldAndUntilTheNewOneIsComplete() throws IOException {
        Path set = written();
        List<List<String>> other = List.of(List.of("9", "fern"));
        assertThatThrownBy(() -> write(set, false, CsvDialect.RFC_4180, other))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("holds an export set already; it is kept unless --overwrite is given");
        assertThatThrownBy(() -> {
                    try (Loading loading = begin(set, true, FileSettings.NONE, Compression.NONE, LABEL)) {
                        try (RecordWriter writer = loading.writer(TablePart.whole(0, LABEL.name()), () -> "")) {
                            writer.write(Rows.batch(other, 2));
                        }
                        throw new PlaceException("source", "the connection dropped", null);
                    }
                })
                .hasMessage("source: the connection dropped");
        assertThat(read(set)).isEqualTo(ROWS);
        write(set, true, CsvDialect.RFC_4180, other);
        assertThat(read(set)).isEqualTo(other);
        assertThat(names(folder)).containsExactly("set");
    }

    @Test
    void aTableThatIsLeftOutLeavesNothingEvenWhereItIsStillWritten() throws IOException {
        TableDefinition drawer = LABEL.toBuilder().name(TableName.of("drawer")).build();
        Path set = folder.resolve("set");
        try (Loading loading = begin(set, false, FileSettings.NONE, Compression.GZIP, LABEL, drawer)) {
            Written.Part kept = write(loading, TablePart.whole(0, LABEL.name()), ROWS);
            write(loading, new TablePart(1, drawer.name(), 1, 3), ROWS);
            try (RecordWriter late = loading.writer(new TablePart(2, drawer.name(), 2, 3), () -> "");
                    RecordWriter never = loading.writer(new TablePart(3, drawer.name(), 3, 3), () -> "")) {
                assertThat(loading.leaveOut(drawer.name())).isTrue();
                write(never, ROWS);
                write(late, ROWS);
                late.finish();
            }
            loading.finish(new Written(List.of(kept), List.of(), Set.of(drawer.name())));
        }
        assertThat(read(set)).isEqualTo(ROWS);
        assertThat(ExportSet.open(set).tables()).containsExactly(LABEL.name());
        assertThat(names(set.resolve("data"))).containsExactly("label.csv.gz");
        assertThat(Files.readString(set.resolve("bag-info.txt")))
                .contains("Payload-Oxum: " + Files.size(set.resolve("data/label.csv.gz")) + ".1\n");
    }

    @Test
    void aFolderWithOtherThingsIsNeverTouched() throws IOException {
        Path place = Files.createDirectory(folder.resolve("photos"));
        Files.writeString(place.resolve("moss.txt"), "mine");
        assertThatThrownBy(() -> write(place, true, CsvDialect.RFC_4180, ROWS))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("is a folder with other things in it");
        assertThat(names(place)).containsExactly("moss.txt");
    }

    @Test
    void aDiskThatFillsUpLeavesNothingAndKeepsTheOldSet() throws IOException {
        Configuration small = Configuration.unix().toBuilder()
                .setMaxSize(512 * 1024)
                .setBlockSize(1024)
                .build();
        try (FileSystem disk = Jimfs.newFileSystem(small)) {
            Path set = disk.getPath("/work/set");
            write(set, false, CsvDialect.RFC_4180, ROWS);
            List<List<String>> many = new ArrayList<>();
            for (int i = 0; i < 40_000; i++) {
                many.add(List.of(String.valueOf(i), "moss on wet ground"));
            }
            assertThatThrownBy(() -> write(set, true, CsvDialect.RFC_4180, many))
                    .isInstanceOf(PlaceException.class)
                    .hasMessageContaining("can't be written: out of disk space");
            assertThat(read(set)).isEqualTo(ROWS);
            assertThat(names(disk.getPath("/work"))).containsExactly("set");
        }
    }
}
