package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.DisabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.testkit.herbarium.Herbarium;

/** Real processes, interrupted as Ctrl-C does it and killed outright, in the middle of their work. */
@DisabledOnOs(value = OS.WINDOWS, disabledReason = "signals are sent by kill")
class KilledProcessTest {

    @TempDir
    private static Path folder;

    private static Path old;
    private static Path set;

    @BeforeAll
    static void makeAHerbariumThatTakesAWhile() throws Exception {
        old = folder.resolve("old.mv.db");
        new Herbarium().readings(200_000).create(old);
        set = folder.resolve("set");
        assertThat(Ferry.run("export", old, set).code()).isZero();
    }

    /** At a pace at which it would take a minute, so that no machine has it done before it is stopped. */
    private static Process start(Path log, Object... arguments) throws IOException {
        Object[] paced = Arrays.copyOf(arguments, arguments.length + 2);
        paced[arguments.length] = "--rows-per-second";
        paced[arguments.length + 1] = "4000";
        return FerryProcess.start("256m", ProcessBuilder.Redirect.to(log.toFile()), paced);
    }

    private static void signal(Process process, String name) throws Exception {
        assertThat(process.isAlive()).as("it ended too early to be stopped").isTrue();
        assertThat(new ProcessBuilder("kill", "-" + name, String.valueOf(process.pid()))
                        .start()
                        .waitFor())
                .isZero();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
    }

    private interface Condition {
        boolean holds() throws IOException;
    }

    private static void await(Condition condition) throws Exception {
        for (int i = 0; i < 6_000 && !condition.holds(); i++) {
            Thread.sleep(5);
        }
        assertThat(condition.holds()).isTrue();
    }

    private static List<Path> named(String part) throws IOException {
        try (Stream<Path> all = Files.list(folder)) {
            return all.filter(p -> p.getFileName().toString().contains(part)).toList();
        }
    }

    private static boolean isHeldOnce(String part) throws IOException {
        List<Path> growing = named(part);
        return !growing.isEmpty() && Files.exists(growing.get(0).resolve(".growing"));
    }

    @Test
    void anInterruptedExportLeavesNothingAndAKilledOneNothingThatLooksWhole() throws Exception {
        Path target = folder.resolve("ex");
        Path log = folder.resolve("export.log");
        Process interrupted = start(log, "export", old, target);
        await(() -> !named(".ex.unfinished").isEmpty());
        signal(interrupted, "INT");
        assertThat(interrupted.exitValue()).isEqualTo(130);
        assertThat(Files.readString(log)).contains("stopped; nothing half-made is left");
        assertThat(named("ex.unfinished")).isEmpty();
        assertThat(target).doesNotExist();

        Process killed = start(log, "export", old, target);
        // one that isn't held yet may be somebody's who begins this moment, and is left alone for a while
        await(() -> isHeldOnce(".ex.unfinished"));
        signal(killed, "KILL");
        assertThat(target).doesNotExist();
        assertThat(Ferry.run("look", named(".ex.unfinished").get(0)).err())
                .contains("it is no export set, or one that was never completed");
        Ferry again = Ferry.run("export", old, target);
        assertThat(again.code()).isZero();
        assertThat(again.out()).contains("was killed; what it had left was cleared away");
        assertThat(named("ex.unfinished")).isEmpty();
    }

    @Test
    void whatAKilledConversionLeavesIsClearedByTheNext() throws Exception {
        Path target = folder.resolve("big.jsonl");
        Process killed =
                start(folder.resolve("convert.log"), "convert", set, folder.resolve("big"), "--to-format", "jsonl");
        await(() -> isHeldOnce(".big.unfinished"));
        signal(killed, "KILL");
        assertThat(named(".big.unfinished")).hasSize(1);
        assertThat(Ferry.run("convert", set, folder.resolve("big"), "--to-format", "jsonl")
                        .code())
                .isZero();
        assertThat(named(".big.unfinished")).isEmpty();
        assertThat(target).doesNotExist();
    }

    @Test
    void anInterruptedLoadIsUndone() throws Exception {
        for (String file : List.of("in.sqlite", "in.mv.db")) {
            Path target = folder.resolve(file);
            Path log = folder.resolve(file + ".log");
            Process process = start(log, "load", set, target);
            await(() -> Files.exists(target) && Files.size(target) > 1_000_000
                    || Files.exists(folder.resolve(file + "-journal")));
            signal(process, "INT");
            assertThat(process.exitValue()).as(Files.readString(log)).isEqualTo(130);
            assertThat(Files.readString(log)).contains("stopped; nothing half-made is left");
            assertThat(target).doesNotExist();
        }
    }

    @Test
    void aKilledLoadIsNeverTakenForAWholeOneAndTheNextOneReplacesIt() throws Exception {
        for (String file : List.of("killed.sqlite", "killed.mv.db")) {
            Path target = folder.resolve(file);
            Process process = start(folder.resolve(file + ".log"), "load", set, target);
            await(() -> Files.exists(target) && Files.size(target) > 1_000_000
                    || Files.exists(folder.resolve(file + "-journal")));
            signal(process, "KILL");
            if (file.endsWith(".mv.db")) {
                assertThat(Ferry.run("look", target).out())
                        .contains(
                                "0 tables",
                                "unfinished load",
                                "the same load goes on with it, any other undoes it first");
            }
            Ferry again = Ferry.run("load", set, target);
            assertThat(again.code()).as(again.err()).isZero();
            assertThat(Ferry.run("reconcile", old, target).code()).isZero();
        }
    }
}
