package org.orderlyferry.cluster.hdfs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.exportset.ExportSet;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.TransferResult;

/** Folders of part files are tables, on this machine's disk and in HDFS. */
class PartFoldersTest {

    @TempDir
    Path here;

    private Path folder(boolean far, String name) throws IOException {
        return Files.createDirectories((far ? MiniCluster.folder() : here).resolve(name));
    }

    private static void part(Path folder, String name, String text) throws IOException {
        try (OutputStream file = Files.newOutputStream(folder.resolve(name));
                OutputStream out = name.endsWith(".gz") ? new GZIPOutputStream(file) : file) {
            out.write(text.getBytes());
        }
    }

    private static List<List<String>> all(Place place) {
        return Contents.of(place.read(Slice.whole(place.define(place.tables().get(0)))));
    }

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void partFilesAreOneTableAndWhatIsBesideThemIsNone(boolean far) throws IOException {
        Path folder = folder(far, "specimen.csv");
        part(folder, "part-00000-7f-c000.csv", "id,name\n1,moss\n2,fern\n");
        part(folder, "part-00001-7f-c000.csv", "id,name\n3,lichen\n");
        part(folder, "part-00002-7f-c000.csv", "");
        part(folder, "part-00003-7f-c000.csv.gz", "id,name\n4,club moss\n");
        part(folder, "_SUCCESS", "");
        part(folder, "_committed_7f", "{}");
        part(folder, ".part-00000-7f-c000.csv.crc", "crc");
        try (Place place = Places.open(folder)) {
            assertThat(place.tables()).containsExactly(TableName.of("specimen"));
            assertThat(all(place))
                    .containsExactly(
                            List.of("1", "moss"),
                            List.of("2", "fern"),
                            List.of("3", "lichen"),
                            List.of("4", "club moss"));
            assertThat(place.notices())
                    .extracting(Finding::text)
                    .anyMatch(t -> t.contains("part-00002-7f-c000.csv has nothing in it"));
        }
    }

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void partsWithoutEndingsAreOfTheFormatThatIsTold(boolean far) throws IOException {
        Path folder = folder(far, "loan");
        part(folder, "000000_0", "{\"id\":1}\n{\"id\":2}\n");
        part(folder, "000001_0", "{\"id\":3}\n");
        try (Place place = Places.open(
                PlaceAddress.of(folder), OpenOptions.builder().format("jsonl").build())) {
            assertThat(place.tables()).containsExactly(TableName.of("loan"));
            assertThat(all(place)).containsExactly(List.of("1"), List.of("2"), List.of("3"));
        }
    }

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void whatIsStillBeingFilledIsRefused(boolean far) throws IOException {
        Path folder = folder(far, "loan");
        part(folder, "part-00000.csv", "id\n1\n");
        Files.createDirectories(folder.resolve("_temporary"));
        assertThatThrownBy(() -> Places.open(folder))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("still being filled");
        part(folder, "_SUCCESS", "");
        try (Place place = Places.open(folder)) {
            assertThat(all(place)).containsExactly(List.of("1"));
        }
    }

    /** One large file is read by several, each from a place of its own on. */
    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void aLargeFileIsCutWhereItStands(boolean far) throws IOException {
        Path folder = folder(far, "large");
        StringBuilder text = new StringBuilder("id,name\n");
        for (int i = 0; i < 60_000; i++) {
            text.append(i).append(",\"Quillmoor, sheet ").append(i).append("\"\n");
        }
        part(folder, "sheet.csv", text.toString());
        try (Place place = Places.open(folder.resolve("sheet.csv"))) {
            TableDefinition table = place.define(TableName.of("sheet"));
            List<Slice> slices = place.cut(table, 60_000, new Cut(10_000, Map.of()));
            assertThat(slices).hasSizeBetween(5, 8);
            long rows = 0;
            for (Slice slice : slices) {
                try (RecordReader reader = place.read(slice)) {
                    rows += Contents.of(reader).size();
                }
            }
            assertThat(rows).isEqualTo(60_000);
        }
    }

    /** The way there and back: files of the disk become a set in HDFS by several lanes, and are read where they are. */
    @ParameterizedTest
    @ValueSource(strings = {"NONE", "GZIP", "ZSTD"})
    void aSetInHdfsHoldsWhatTheFilesHold(String compression) throws IOException {
        StringBuilder text = new StringBuilder("id,name\n");
        for (int i = 0; i < 50_000; i++) {
            text.append(i).append(",苔 \"").append(i).append("\n");
        }
        Files.writeString(here.resolve("moss.csv"), text.toString().replace("\"", ""));
        Path set = MiniCluster.folder().resolve("set of mosses");
        try (Place source = Places.open(here.resolve("moss.csv"))) {
            TransferResult result = Export.from(source)
                    .lanes(3)
                    .sliceRows(9_000)
                    .compression(org.orderlyferry.io.Compression.valueOf(compression))
                    .to(set);
            assertThat(result.tables()).singleElement().satisfies(t -> assertThat(t.written())
                    .isEqualTo(50_000));
            try (Place kept = Places.open(set)) {
                kept.verify();
                assertThat(all(kept)).hasSize(50_000);
                assertThat(Set.copyOf(all(kept))).isEqualTo(Set.copyOf(all(source)));
            }
        }
        assertThat(MiniCluster.names(set.getParent())).containsExactly("set of mosses");
        assertThat(MiniCluster.names(set)).contains("bagit.txt");
        assertThat(MiniCluster.names(set.resolve("data"))).hasSizeGreaterThan(4);
        assertThat(ExportSet.isSet(set)).isTrue();
    }

    /** A folder that may take no more: nothing there looks like a set, and the one that was there stays. */
    @Test
    void aSetForWhichThereIsNoRoomIsNone() throws IOException {
        StringBuilder text = new StringBuilder("id,name\n");
        for (int i = 0; i < 200_000; i++) {
            text.append(i).append(",moss on wet ground ").append(i).append("\n");
        }
        Files.writeString(here.resolve("moss.csv"), text);
        Files.writeString(here.resolve("few.csv"), "id,name\n1,fern\n");
        Path folder = MiniCluster.folder();
        Path set = folder.resolve("set");
        try (Place few = Places.open(here.resolve("few.csv"));
                Place many = Places.open(here.resolve("moss.csv"))) {
            Export.from(few).to(set);
            // blocks are reserved whole, and kept twice
            MiniCluster.cluster()
                    .getFileSystem()
                    .setQuota(
                            new org.apache.hadoop.fs.Path(((HdfsPath) folder).inside()), Long.MAX_VALUE - 1, 4L << 20);
            assertThatThrownBy(() -> Export.from(many).overwrite(true).to(set))
                    .isInstanceOf(PlaceException.class)
                    // whether the data node's own word is heard is a matter of moments
                    .hasMessageContaining("quota");
        }
        try (Place kept = Places.open(set)) {
            kept.verify();
            assertThat(all(kept)).containsExactly(List.of("1", "fern"));
        }
        assertThat(MiniCluster.names(folder)).containsExactly("set");
    }
}
