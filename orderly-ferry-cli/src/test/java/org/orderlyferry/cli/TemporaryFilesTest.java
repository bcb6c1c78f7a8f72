package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a packed file is copied to in order to be read is gone afterwards, also where it couldn't be read. */
class TemporaryFilesTest {

    @TempDir
    private Path folder;

    /** Reads files as a command does, in a process with a temporary folder of its own. */
    static final class Each {

        private Each() {}

        public static void main(String[] files) {
            for (String file : files) {
                Ferry look = Ferry.run("look", file);
                Ferry convert = Ferry.run("convert", file, file + ".csv");
                System.out.println(look.code() + " " + convert.code() + " " + file + look.err() + convert.err());
            }
        }
    }

    private void pack(Path name, byte[] content) throws Exception {
        try (OutputStream out = new GZIPOutputStream(Files.newOutputStream(name))) {
            out.write(content);
        }
    }

    private List<Object> packed() throws Exception {
        Path csv = Files.writeString(
                folder.resolve("label.csv"), "id,note\n" + ("1,\"" + "moss and fern ".repeat(40) + "\"\n").repeat(50));
        Path several = Files.createDirectory(folder.resolve("several"));
        for (String name : List.of("bed", "label", "loan", "shelf")) {
            Files.copy(csv, several.resolve(name + ".csv"));
        }
        List<Object> all = new ArrayList<>();
        for (String name : List.of("xls", "xlsx", "ods", "accdb", "sqlite.sql", "many.xls", "many.ods")) {
            String ending = name.replace("many.", "");
            Path file = folder.resolve("label." + name);
            assertThat(Ferry.run("convert", name.equals(ending) ? csv : several, file)
                            .code())
                    .isZero();
            byte[] whole = Files.readAllBytes(file);
            for (int share : new int[] {100, 99, 90, 50, 5}) {
                Path gz = folder.resolve("label-" + share + "-" + name + "." + ending + ".gz");
                pack(gz, Arrays.copyOf(whole, whole.length * share / 100));
                all.add(gz);
            }
        }
        return all;
    }

    @Test
    void areGone() throws Exception {
        List<Object> files = packed();
        Path temporary = Files.createDirectory(folder.resolve("temporary"));
        Path log = folder.resolve("log");
        Process each = FerryProcess.start(
                Each.class,
                List.of("-Xmx256m", "-Djava.io.tmpdir=" + temporary),
                ProcessBuilder.Redirect.to(log.toFile()),
                files.toArray());
        assertThat(each.waitFor(5, TimeUnit.MINUTES)).isTrue();
        String told = Files.readString(log);
        assertThat(told.lines().filter(l -> l.startsWith("0 0 "))).as(told).hasSizeGreaterThanOrEqualTo(5);
        assertThat(told.lines().filter(l -> l.startsWith("3 3 "))).as(told).hasSizeGreaterThanOrEqualTo(15);
        try (Stream<Path> left = Files.list(temporary)) {
            assertThat(left.map(p -> p.getFileName().toString()).filter(n -> n.startsWith("orderly-ferry-")))
                    .isEmpty();
        }
    }

    @Test
    void whereThereIsNoRoomForThemTheFolderIsNamed() throws Exception {
        Path csv = Files.writeString(folder.resolve("label.csv"), "id,note\n1,moss\n");
        Path xls = folder.resolve("label.xls");
        assertThat(Ferry.run("convert", csv, xls).code()).isZero();
        Path packed = folder.resolve("label.xls.gz");
        pack(packed, Files.readAllBytes(xls));
        Path nowhere = folder.resolve("nowhere");
        Path log = folder.resolve("log");
        for (String to : List.of("to.dbf", "to.accdb")) {
            for (Path from : List.of(csv, packed)) {
                Process convert = FerryProcess.start(
                        Main.class,
                        List.of("-Xmx256m", "-Djava.io.tmpdir=" + nowhere),
                        ProcessBuilder.Redirect.to(log.toFile()),
                        "convert",
                        from,
                        folder.resolve(to));
                assertThat(convert.waitFor(5, TimeUnit.MINUTES)).isTrue();
                assertThat(Files.readString(log)).containsOnlyOnce("in the temporary folder, " + nowhere + ": ");
                assertThat(convert.exitValue()).isEqualTo(3);
                assertThat(folder.resolve(to)).doesNotExist();
            }
        }
    }
}
