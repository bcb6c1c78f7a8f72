package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongConsumer;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.work.Load;

/** A comparison that is stopped goes on with what it has tallied, and trusts nothing of it once it is done. */
class KeptComparisonTest {

    @TempDir
    private static Path folder;

    private static Path old;
    private static Path made;
    private static Path unlike;

    @BeforeAll
    static void makeBothEnds() throws Exception {
        old = folder.resolve("old.mv.db");
        new Herbarium().specimens(100).readings(3_000).commonDates(true).create(old);
        made = folder.resolve("new.sqlite");
        try (Place source = Places.open(old);
                TargetPlace target = Places.openTarget(made)) {
            Load.from(source).into(target);
        }
        unlike = folder.resolve("unlike.sqlite");
        Files.copy(made, unlike);
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + unlike);
                Statement statement = connection.createStatement()) {
            statement.execute("DELETE FROM chamber_reading WHERE id % 100 = 7");
            statement.execute("UPDATE chamber_reading SET humidity = humidity + 1 WHERE id % 100 = 9");
        }
    }

    /** Compares record by record, in small slices, and stops after so many records. */
    private static List<String> differences(Path keep, long rows) {
        StopSignal stop = new StopSignal();
        AtomicLong seen = new AtomicLong();
        List<String> found = new ArrayList<>();
        try (Place source = Places.open(old);
                Place target = Places.open(unlike)) {
            ReconcileResult result = Reconcile.between(source, target)
                    .tables("chamber_reading")
                    .depth(Depth.ROWS)
                    .sliceRows(200)
                    .lanes(2)
                    .differences(
                            d -> found.add(d.kind() + " " + d.source().map(r -> r.text(0)) + " " + d.differing()),
                            Long.MAX_VALUE)
                    .stopSignal(stop)
                    .listener(new ProgressListener() {
                        @Override
                        public void moved(TableName table, long more, long bytes) {
                            if (seen.addAndGet(more) > rows) {
                                stop.stop();
                            }
                        }
                    })
                    .keep(keep)
                    .compare();
            found.add(result.tables().get(0).rows().toString());
            result.findings().forEach(f -> found.add(f.code().toString()));
            found.add(seen.get() + " read");
        } catch (StoppedException e) {
            return List.of();
        }
        Collections.sort(found);
        return found;
    }

    @ParameterizedTest
    @ValueSource(longs = {500, 2_000, 3_500, 5_500})
    void recordByRecordItGoesOnToo(long rows) throws Exception {
        Path keep = folder.resolve("rows" + rows);
        List<String> all = differences(folder.resolve("at-once" + rows), Long.MAX_VALUE);
        assertThat(all).hasSize(61).doesNotContain(FindingCode.RESUMED.toString());
        assertThat(differences(keep, rows)).isEmpty();
        List<String> gone = differences(keep, Long.MAX_VALUE);
        assertThat(gone).contains(FindingCode.RESUMED.toString());
        assertThat(gone.stream().filter(s -> !s.endsWith(" read") && !s.equals(FindingCode.RESUMED.toString())))
                .containsExactlyElementsOf(
                        all.stream().filter(s -> !s.endsWith(" read")).toList());
        assertThat(gone)
                .doesNotContain(all.stream()
                        .filter(s -> s.endsWith(" read"))
                        .findFirst()
                        .orElseThrow());
        try (Stream<Path> left = Files.list(keep)) {
            assertThat(left).isEmpty();
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"digests", "sizes.json"})
    void digestsThatDoNotAddUpAreReadAgain(String file) throws Exception {
        List<String> all = differences(folder.resolve("all-" + file), Long.MAX_VALUE);
        Path keep = folder.resolve("changed-" + file);
        assertThat(differences(keep, 4_000)).isEmpty();
        byte[] bytes = Files.readAllBytes(keep.resolve(file));
        if (file.equals("digests")) {
            // how much is kept by then depends on who was faster
            for (int i = 5; i + 7 * 8 < bytes.length; i += 1_000) {
                bytes[i + i / 1_000 % 8 * 8] ^= 1;
            }
            Files.write(keep.resolve(file), bytes);
        } else {
            Files.writeString(keep.resolve(file), "{\"chamber_reading\":2000000}");
        }
        assertThat(differences(keep, Long.MAX_VALUE))
                .contains(all.toArray(String[]::new))
                .hasSize(all.size() + 1);
    }

    @Test
    void aFileThatWasEditedMeanwhileIsNotGoneOnWith() throws Exception {
        Path one = folder.resolve("reading.csv");
        StringBuilder text = new StringBuilder("id,note\n");
        for (int i = 0; i < 5_000; i++) {
            text.append(i).append(",moss\n");
        }
        Files.writeString(one, text);
        Path keep = folder.resolve("edited");
        StopSignal stop = new StopSignal();
        assertThatThrownBy(() -> files(one, keep, stop, rows -> stop.stop())).isInstanceOf(StoppedException.class);
        Files.writeString(one, "id,note\n1,fern\n");
        assertThatThrownBy(() -> files(one, keep, new StopSignal(), rows -> {}))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("of a file that has changed since");
    }

    private static void files(Path one, Path keep, StopSignal stop, LongConsumer moved) {
        try (Place source = Places.open(one);
                Place target = Places.open(one)) {
            Reconcile.between(source, target)
                    .keep(keep)
                    .sliceRows(500)
                    .stopSignal(stop)
                    .listener(new ProgressListener() {
                        @Override
                        public void moved(TableName table, long more, long bytes) {
                            moved.accept(more);
                        }
                    })
                    .compare();
        }
    }

    @Test
    void twoAtOnceAreRefused() throws Exception {
        Path keep = folder.resolve("two");
        List<Throwable> second = new ArrayList<>();
        compared(keep, new StopSignal(), new ProgressListener() {
            @Override
            public void tableFinished(TableName table, long all) {
                if (second.isEmpty()) {
                    second.add(catchThrowable(() -> compared(keep, new StopSignal(), ProgressListener.NONE)));
                }
            }
        });
        assertThat(second).singleElement().satisfies(e -> assertThat(e)
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("is being written by another comparison"));
    }

    /** Counts the records that are read, and stops after some tables. */
    private static final class Stopping implements ProgressListener {
        private final AtomicLong rows = new AtomicLong();
        private final StopSignal stop;
        private int left;

        Stopping(StopSignal stop, int tables) {
            this.stop = stop;
            this.left = tables;
        }

        @Override
        public void moved(TableName table, long more, long bytes) {
            rows.addAndGet(more);
        }

        @Override
        public void tableFinished(TableName table, long all) {
            if (--left == 0) {
                stop.stop();
            }
        }
    }

    private static ReconcileResult compared(Path keep, StopSignal stop, ProgressListener listener, String... tables) {
        try (Place source = Places.open(old);
                Place target = Places.open(made)) {
            return Reconcile.between(source, target)
                    .tables(tables)
                    .keep(keep)
                    .stopSignal(stop)
                    .listener(listener)
                    .compare();
        }
    }

    private static Path stopped(String name, int tables) {
        Path keep = folder.resolve(name);
        StopSignal stop = new StopSignal();
        Stopping stopping = new Stopping(stop, tables);
        assertThatThrownBy(() -> compared(keep, stop, stopping)).isInstanceOf(StoppedException.class);
        return keep;
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 5, 20})
    void itGoesOnAndComesToTheSame(int tables) {
        ReconcileResult fresh = compared(folder.resolve("fresh" + tables), new StopSignal(), ProgressListener.NONE);
        Stopping all = new Stopping(new StopSignal(), Integer.MAX_VALUE);
        compared(folder.resolve("all" + tables), new StopSignal(), all);
        Path keep = stopped("stopped" + tables, tables);
        Stopping rest = new Stopping(new StopSignal(), Integer.MAX_VALUE);
        ReconcileResult result = compared(keep, new StopSignal(), rest);
        assertThat(result.tables()).isEqualTo(fresh.tables());
        assertThat(result.isEqual()).isTrue();
        assertThat(result.findings()).anySatisfy(f -> assertThat(f.code()).isEqualTo(FindingCode.RESUMED));
        assertThat(rest.rows.get()).isLessThan(all.rows.get());
        // and the next one begins anew
        Stopping again = new Stopping(new StopSignal(), Integer.MAX_VALUE);
        assertThat(compared(keep, new StopSignal(), again).findings())
                .noneSatisfy(f -> assertThat(f.code()).isEqualTo(FindingCode.RESUMED));
        assertThat(again.rows.get()).isEqualTo(all.rows.get());
    }

    @Test
    void aPaceIsKeptOnEachSide() {
        long took;
        try (Place source = Places.open(old);
                Place target = Places.open(made)) {
            long began = System.nanoTime();
            assertThat(Reconcile.between(source, target)
                            .tables("chamber_reading")
                            .pace(4_000, 0)
                            .sliceRows(500)
                            .compare()
                            .isEqual())
                    .isTrue();
            took = System.nanoTime() - began;
        }
        // 3,000 records at 4,000 a second; that it isn't faster is what is promised
        assertThat(took).isGreaterThan(700_000_000L);
    }

    @Test
    void aLineThatWasBeingWrittenCountsAsNotWritten() throws Exception {
        Path keep = stopped("half", 6);
        for (String side : new String[] {"source", "target"}) {
            Files.writeString(keep.resolve(side + "-tallies.jsonl"), "{\"result\":{\"part", StandardOpenOption.APPEND);
        }
        assertThat(compared(keep, new StopSignal(), ProgressListener.NONE).isEqual())
                .isTrue();
    }

    @Test
    void anotherComparisonIsRefused() {
        Path keep = stopped("other", 3);
        assertThatThrownBy(() -> compared(keep, new StopSignal(), ProgressListener.NONE, "taxon"))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("keeps another comparison");
    }

    @ParameterizedTest
    @ValueSource(strings = {"nonsense\n", "{\"result\":{}}\n", "{\"task\":{\"part\":null}}\n", "[]\n", "\n"})
    void whatIsNoLedgerIsRefused(String text) throws Exception {
        Path keep = Files.createDirectories(folder.resolve("odd" + text.hashCode()));
        Files.writeString(keep.resolve("source-tallies.jsonl"), text);
        assertThatThrownBy(() -> compared(keep, new StopSignal(), ProgressListener.NONE))
                .isInstanceOf(MalformedFileException.class)
                .hasMessageContaining("source-tallies.jsonl, line 1");
    }
}
