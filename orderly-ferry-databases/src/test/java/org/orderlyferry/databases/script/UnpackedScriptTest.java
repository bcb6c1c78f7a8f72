package org.orderlyferry.databases.script;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.testkit.doubles.BytesSource;
import org.orderlyferry.testkit.doubles.Contents;

/** A compressed script of several tables is unpacked once. */
class UnpackedScriptTest {

    private static final OpenOptions OPTIONS = OpenOptions.builder()
            .files(FileSettings.NONE.with("dialect", "sqlite"))
            .build();

    @TempDir
    private Path folder;

    private Path script(int tables) throws IOException {
        StringBuilder sql = new StringBuilder();
        for (int i = 0; i < tables; i++) {
            sql.append("CREATE TABLE t").append(i).append(" (n INTEGER);\n");
        }
        // the tables' records stand mixed
        for (int k = 0; k < 50; k++) {
            for (int i = 0; i < tables; i++) {
                sql.append("INSERT INTO t")
                        .append(i)
                        .append(" VALUES (")
                        .append(k * 100 + i)
                        .append(");\n");
            }
        }
        Path file = folder.resolve("dump" + tables + ".sql.gz");
        try (OutputStream out = new GZIPOutputStream(Files.newOutputStream(file))) {
            out.write(sql.toString().getBytes(StandardCharsets.UTF_8));
        }
        return file;
    }

    @Test
    void eachTableHasItsRecordsInWhateverOrderTheyAreRead() throws Exception {
        try (Place place = Places.open(PlaceAddress.of(script(6)), OPTIONS)) {
            for (int i : List.of(5, 0, 3, 3, 1)) {
                List<List<String>> rows = Contents.of(place.read(Slice.whole(place.define(TableName.of("t" + i)))));
                assertThat(rows).hasSize(50).contains(List.of(String.valueOf(4900 + i)));
            }
        }
    }

    @Test
    void aScriptOfOneTableIsReadAsItIs() {
        FileSource one = new BytesSource("one.sql", new byte[] {1});
        assertThat(UnpackedScript.of(one, 1, 1)).isSameAs(one);
        // nor is one for which there is no room
        assertThat(UnpackedScript.of(one, 2, Long.MAX_VALUE / 8)).isSameAs(one);
        FileSource unpacked = UnpackedScript.of(one, 2, 1);
        assertThat(unpacked.onDisk()).isPresent();
        assertThat(unpacked.shown()).isEqualTo("one.sql");
        ((UnpackedScript) unpacked).remove();
        assertThat(unpacked.onDisk().orElseThrow()).doesNotExist();
    }

    @Test
    void aScriptThatIsCutOffIsToldAndLeavesNoTemporaryFile() throws Exception {
        Path whole = script(6);
        byte[] bytes = Files.readAllBytes(whole);
        Path cut = folder.resolve("cut.sql.gz");
        Files.write(cut, java.util.Arrays.copyOf(bytes, bytes.length / 2));
        assertThatThrownBy(() -> {
                    try (Place place = Places.open(PlaceAddress.of(cut), OPTIONS)) {
                        place.tables().forEach(place::define);
                    }
                })
                .isInstanceOf(FerryException.class)
                .hasMessageContaining("cut.sql.gz");
    }
}
