package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.SideThread;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/** A set with a bit that is another one leaves nothing in a target, wherever it is, and is told as that. */
class DamagedSetTest {

    private static final TableName BED = TableName.of("bed");

    @TempDir
    private Path folder;

    private Path set(int records) {
        List<List<String>> rows = new ArrayList<>();
        for (int i = 0; i < records; i++) {
            rows.add(List.of(Integer.toString(i), "a \"fern\",\nand " + i, "1." + i));
        }
        TableDefinition bed = TableDefinition.named(BED)
                .column("id", LogicalType.INTEGER)
                .column("name", LogicalType.varchar(60))
                .column("height", LogicalType.decimal(18, 9))
                .primaryKey("id")
                .build();
        Path set = folder.resolve("set");
        try (Place source = new ListedPlace().with(bed, rows)) {
            Export.from(source).sliceRows(100).to(set);
        }
        return set;
    }

    private static List<Path> parts(Path set) throws IOException {
        try (var files = Files.list(set.resolve("data"))) {
            return files.sorted().toList();
        }
    }

    private static void flip(Path file, Random random) throws IOException {
        try (RandomAccessFile bytes = new RandomAccessFile(file.toFile(), "rw")) {
            long at = random.nextLong(bytes.length());
            bytes.seek(at);
            int was = bytes.read();
            bytes.seek(at);
            bytes.write(was ^ 1 << random.nextInt(8));
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aBitAnywhereIsToldAndNothingIsLoaded(String system) throws IOException {
        Path set = set(250);
        String there = TestSystem.of(system).fresh(folder);
        try (Place source = Places.open(set);
                TargetPlace target = Places.openTarget(there)) {
            Load.from(source).into(target);
        }
        for (int seed = 0; seed < 12; seed++) {
            Random random = new Random(seed);
            Path part = parts(set).get(random.nextInt(3));
            byte[] whole = Files.readAllBytes(part);
            flip(part, random);
            LoadMode mode =
                    List.of(LoadMode.REPLACE, LoadMode.APPEND, LoadMode.MERGE).get(seed % 3);
            assertThatThrownBy(() -> load(set, there, mode))
                    .as("seed %s, %s", seed, mode)
                    .isInstanceOf(BrokenSetException.class)
                    .hasMessageContaining(
                            "the file data/" + part.getFileName() + " was changed after the set was made");
            Files.write(part, whole);
        }
        Path part = parts(set).get(1);
        flip(part, new Random(99));
        String empty = TestSystem.of(system).fresh(Files.createDirectory(folder.resolve("new")));
        assertThatThrownBy(() -> load(set, empty, LoadMode.CREATE)).hasMessageContaining("was changed after");
        try (Place target = Places.openTarget(empty)) {
            assertThat(target.tables()).isEmpty();
        }
        try (Place target = Places.open(there)) {
            assertThat(target.tables()).containsExactly(BED);
            assertThat(target.count(BED)).isEqualTo(250);
        }
    }

    private static void load(Path set, String there, LoadMode mode) {
        try (Place source = Places.open(set);
                TargetPlace target = Places.openTarget(there)) {
            Load.from(source).mode(mode).lanes(2).into(target);
        }
    }

    /** Does something beside, in a moment. */
    private static Thread later(Runnable work) {
        Thread thread = new Thread(() -> {
            try {
                Thread.sleep(200);
                work.run();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
        thread.start();
        return thread;
    }

    /** Counts what is read before the set is known to be whole, which takes until told. */
    private static final class Slow extends ForwardingPlace {

        private final CountDownLatch known;
        private final AtomicInteger early = new AtomicInteger();
        private final CountDownLatch read;

        Slow(Place place, CountDownLatch known, int slices) {
            super(place);
            this.known = known;
            this.read = new CountDownLatch(slices);
        }

        @Override
        public void verify(Runnable check) {
            while (known.getCount() > 0) {
                check.run();
                Thread.onSpinWait();
            }
            super.verify(check);
        }

        @Override
        public RecordReader read(Slice slice, Rejects rejects) {
            if (known.getCount() > 0) {
                early.incrementAndGet();
            }
            read.countDown();
            return super.read(slice, rejects);
        }
    }

    @Test
    void newTablesAreLoadedMeanwhileAndCountOnlyWhenItIsKnown() throws Exception {
        Path set = set(250);
        CountDownLatch known = new CountDownLatch(1);
        List<TableName> seen = new CopyOnWriteArrayList<>();
        String there = TestSystem.H2.fresh(folder);
        try (Slow source = new Slow(Places.open(set), known, 3);
                TargetPlace target = Places.openTarget(there)) {
            Thread teller = later(() -> {
                try (Place other = Places.open(there)) {
                    source.read.await();
                    seen.addAll(other.tables());
                    seen.add(TableName.of("looked"));
                } catch (InterruptedException e) {
                    Thread.currentThread().interrupt();
                } finally {
                    known.countDown();
                }
            });
            Load.from(source).mode(LoadMode.REPLACE).into(target);
            teller.join();
            assertThat(source.early).hasValue(3);
            assertThat(seen).doesNotContain(BED).contains(TableName.of("looked"));
            assertThat(target.count(BED)).isEqualTo(250);
        }
    }

    @Test
    void tablesThatStayAreTouchedOnlyWhenItIsKnown() throws Exception {
        Path set = set(250);
        String there = TestSystem.H2.fresh(folder);
        load(set, there, LoadMode.CREATE);
        CountDownLatch known = new CountDownLatch(1);
        try (Slow source = new Slow(Places.open(set), known, 3);
                TargetPlace target = Places.openTarget(there)) {
            Thread teller = later(known::countDown);
            Load.from(source).mode(LoadMode.MERGE).into(target);
            teller.join();
            assertThat(source.early).hasValue(0);
        }
    }

    /** Whoever has forgotten an option hears of it now, and not when the set has been read through. */
    @Test
    void aTableThatIsThereIsToldAtOnce() throws Exception {
        Path set = set(20);
        String there = TestSystem.H2.fresh(folder);
        load(set, there, LoadMode.CREATE);
        try (Slow source = new Slow(Places.open(set), new CountDownLatch(1), 1);
                TargetPlace target = Places.openTarget(there)) {
            assertThatThrownBy(() -> Load.from(source).into(target)).isInstanceOf(UsageException.class);
        }
    }

    @Test
    void aStopEndsItBesideAndBefore() throws Exception {
        Path set = set(20);
        String there = TestSystem.H2.fresh(folder);
        load(set, there, LoadMode.CREATE);
        for (LoadMode mode : List.of(LoadMode.REPLACE, LoadMode.APPEND)) {
            StopSignal stop = new StopSignal();
            try (Slow source = new Slow(Places.open(set), new CountDownLatch(1), 1);
                    TargetPlace target = Places.openTarget(there)) {
                Thread stopping = later(stop::stop);
                assertThat(catchThrowable(() ->
                                Load.from(source).mode(mode).stopSignal(stop).into(target)))
                        .isInstanceOf(StoppedException.class);
                stopping.join();
            }
            try (Place target = Places.open(there)) {
                assertThat(target.count(BED)).isEqualTo(20);
            }
        }
    }

    /** What keeps us from seeing all of a set isn't taken for its being whole. */
    @Test
    void whateverEndsTheVerifyingEndsTheLoad() throws Exception {
        Path set = set(20);
        String there = TestSystem.H2.fresh(folder);
        for (Throwable why : List.of(new OutOfMemoryError("played"), new IllegalStateException("played"))) {
            try (Place source = new ForwardingPlace(Places.open(set)) {
                        @Override
                        public void verify(Runnable check) {
                            SideThread.rethrow(why);
                        }
                    };
                    TargetPlace target = Places.openTarget(there)) {
                assertThat(catchThrowable(() -> Load.from(source).into(target))).isSameAs(why);
                assertThat(target.tables()).isEmpty();
            }
        }
    }
}
