package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.github.luben.zstd.Zstd;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Dumps that PostgreSQL's own tool (version 15) has made of one small database, in each of its forms. */
class DumpsTest {

    @TempDir
    Path folder;

    private static Path dump(String name) throws Exception {
        return Path.of(DumpsTest.class.getResource("dumps/" + name).toURI());
    }

    private static Ferry must(int code, Object... arguments) {
        Ferry ferry = Ferry.run(arguments);
        assertThat(ferry.code()).as(ferry.out() + ferry.err()).isEqualTo(code);
        return ferry;
    }

    @ParameterizedTest
    @ValueSource(strings = {"packed.dump", "plain.dump", "inserts.dump", "small.tar", "folder"})
    void eachFormIsTheScriptThatItStandsFor(String form) throws Exception {
        Path script = dump("script.sql");
        assertThat(must(0, "look", dump(form)).out())
                .contains("2 tables", "view heavy", "function shout", "large object");
        must(0, "reconcile", script, dump(form), "--depth", "rows", "--structure");
        Path target = folder.resolve("target.sqlite");
        assertThat(must(0, "load", dump(form), target).out()).contains("All 7 records are in");
        must(0, "reconcile", script, target, "--depth", "rows");
    }

    @ParameterizedTest
    @ValueSource(strings = {"packed.dump", "plain.dump", "small.tar"})
    void oneThatIsCutOffIsRefusedWhereverItIsCut(String form) throws Exception {
        byte[] whole = Files.readAllBytes(dump(form));
        // what stands behind a tar file's last part says nothing
        int end = form.endsWith(".tar") ? 7_600 : whole.length;
        for (int length = 1_000; length < end; length += 1 + end / 25) {
            Path cut = Files.write(folder.resolve("cut-" + form), Arrays.copyOf(whole, length));
            Ferry ferry = Ferry.run("load", cut, folder.resolve("cut.sqlite"));
            assertThat(ferry.code())
                    .as(form + " cut at " + length + ferry.out())
                    .isIn(2, 3);
            assertThat(folder.resolve("cut.sqlite")).doesNotExist();
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"packed.dump", "plain.dump", "small.tar"})
    void whateverIsChangedInOneItIsReadOrRefused(String form) throws Exception {
        byte[] whole = Files.readAllBytes(dump(form));
        Random random = new Random(20310409);
        for (int i = 0; i < 25; i++) {
            byte[] other = whole.clone();
            other[random.nextInt(Math.min(other.length, 9_000))] ^= (byte) (1 << random.nextInt(8));
            Ferry ferry = Ferry.run("look", Files.write(folder.resolve("odd-" + form), other));
            assertThat(ferry.code()).as(ferry.err()).isIn(0, 1, 2, 3);
            assertThat(ferry.err()).doesNotContain("unexpected");
        }
    }

    @Test
    void aPartThatIsMissingOrNamesAnotherFileIsRefused() throws Exception {
        Path copy = Files.createDirectories(folder.resolve("copy"));
        try (var files = Files.list(dump("folder"))) {
            for (Path file : files.toList()) {
                Files.copy(file, copy.resolve(file.getFileName()));
            }
        }
        byte[] toc = Files.readAllBytes(copy.resolve("toc.dat"));
        String text = new String(toc, StandardCharsets.ISO_8859_1);
        assertThat(text).contains("3358.dat");
        Files.write(
                copy.resolve("toc.dat"), text.replace("3358.dat", "../8.dat").getBytes(StandardCharsets.ISO_8859_1));
        assertThat(must(3, "look", copy).err()).contains("isn't one of its own");
        Files.write(copy.resolve("toc.dat"), toc);
        must(0, "look", copy);
        Files.delete(copy.resolve("3358.dat.gz"));
        assertThat(must(3, "look", copy).err()).contains("3358.dat is missing");
    }

    /** A dump of one table, as an archive version has it. */
    private static final class Made {
        private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();

        Made number(int number) {
            bytes.write(number < 0 ? 1 : 0);
            for (int i = 0; i < 4; i++) {
                bytes.write(Math.abs(number) >> 8 * i);
            }
            return this;
        }

        Made text(String text) {
            if (text == null) {
                return number(-1);
            }
            number(text.length());
            bytes.writeBytes(text.getBytes(StandardCharsets.ISO_8859_1));
            return this;
        }

        Made entry(int version, int id, String kind, int section, String definition, String copy) {
            number(id).number(1).text("0").text("0").text("moss").text(kind).number(section);
            text(definition).text("").text(copy).text("public").text("");
            if (version >= 14) {
                text("heap");
            }
            if (version >= 16) {
                number('r');
            }
            text("keeper").text("false").text(null);
            bytes.writeBytes(new byte[9]);
            return this;
        }

        static byte[] of(int version) throws IOException {
            Made made = new Made();
            made.bytes.writeBytes("PGDMP".getBytes(StandardCharsets.US_ASCII));
            made.bytes.writeBytes(new byte[] {1, (byte) version, 0, 4, 8, 1});
            if (version >= 15) {
                made.bytes.write(3);
            } else {
                made.number(0);
            }
            for (int i = 0; i < 7; i++) {
                made.number(i);
            }
            made.text("moss").text("17").text("17").number(2);
            made.entry(version, 7, "TABLE", 2, "CREATE TABLE public.moss (id integer, name text);\n", null);
            made.entry(version, 8, "TABLE DATA", 3, "", "COPY public.moss (id, name) FROM stdin;\n");
            made.bytes.write(1);
            made.number(8);
            byte[] data = "1\tfern\n2\t\\N\n\\.\n\n\n".getBytes(StandardCharsets.US_ASCII);
            byte[] packed = version >= 15 ? Zstd.compress(data) : data;
            made.number(packed.length);
            made.bytes.writeBytes(packed);
            made.number(0);
            return made.bytes.toByteArray();
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {11, 12, 13, 14, 15, 16})
    void whatEachArchiveVersionHasIsPassedOver(int version) throws Exception {
        Path file = Files.write(folder.resolve("made.dump"), Made.of(version));
        Path csv = folder.resolve("made.csv");
        must(0, "convert", file, csv);
        assertThat(Files.readString(csv)).isEqualTo("id,name\r\n1,fern\r\n2,\r\n");
    }

    @ParameterizedTest
    @ValueSource(ints = {10, 17})
    void anArchiveVersionThatIsntKnownIsToldAsSuch(int version) throws Exception {
        Path file = Files.write(folder.resolve("made.dump"), Made.of(version));
        assertThat(must(3, "look", file).err()).contains("archive version 1." + version, "1.11 to 1.16");
    }
}
