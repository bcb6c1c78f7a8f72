package org.orderlyferry.testkit.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.doubles.Samples;
import org.orderlyferry.testkit.faults.Faulty;
import org.orderlyferry.testkit.faults.FaultyPlace;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What every {@link TargetPlace} keeps: a load is whole or was never there, whatever fails, and counts what it took. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
public abstract class LoadContract {

    @TempDir
    Path folder;

    /** Kinds of targets. */
    protected abstract Stream<Ends> ends();

    private static ListedPlace source(Ends ends) {
        return ends.holdsSeveralTables() ? Samples.garden() : Samples.labels();
    }

    private static TransferResult load(Place source, String address, LoadMode mode) {
        try (TargetPlace target = Places.openTarget(address)) {
            return Load.from(source).mode(mode).into(target);
        }
    }

    /** All that a target holds, by the tables' names; nothing where it isn't there. */
    private static Map<String, List<String>> state(String address, ListedPlace truth) {
        Map<String, List<String>> state = new TreeMap<>();
        boolean file = PlaceAddress.of(address).scheme().equals(PlaceAddress.FILE);
        if (file && !Files.exists(Path.of(address))) {
            return state;
        }
        try (Place place = Places.open(address)) {
            for (TableName table : place.tables()) {
                TableDefinition definition = truth.tables().contains(table)
                        ? truth.define(table)
                        : truth.define(truth.tables().get(0));
                state.put(table.name(), Contents.sorted(place, table, definition));
            }
        }
        return state;
    }

    private static Map<String, List<String>> all(ListedPlace truth) {
        Map<String, List<String>> all = new TreeMap<>();
        truth.tables().forEach(t -> all.put(t.name(), Contents.sorted(truth.rows(t), truth.define(t))));
        return all;
    }

    private void mustHold(String address, ListedPlace truth, String when) {
        Map<String, List<String>> state = state(address, truth);
        if (truth.tables().size() == 1) {
            // a file gives its one table its own name
            assertThat(state.values())
                    .as(when)
                    .containsExactlyElementsOf(all(truth).values());
        } else {
            assertThat(state).as(when).isEqualTo(all(truth));
        }
    }

    private static List<Path> listed(Path folder) throws Exception {
        try (Stream<Path> files = Files.walk(folder)) {
            return files.sorted().toList();
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void allArrivesAndIsCounted(Ends ends) {
        String address = ends.fresh().apply(folder);
        TransferResult result = load(source(ends), address, LoadMode.CREATE);
        mustHold(address, source(ends), "after the load");
        assertThat(result.tables()).allSatisfy(t -> {
            assertThat(t.read()).isEqualTo(source(ends).count(t.table()));
            assertThat(t.read()).isEqualTo(t.written() + t.rejected() + t.leftOut());
        });
    }

    @ParameterizedTest
    @MethodSource("ends")
    void whatIsThereIsKeptUnlessItIsToBeReplaced(Ends ends) throws Exception {
        String address = ends.fresh().apply(folder);
        load(source(ends), address, LoadMode.CREATE);
        List<Path> before = listed(folder);
        assertThatThrownBy(() -> load(Samples.labels(3), address, LoadMode.CREATE))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("already");
        mustHold(address, source(ends), "after a load that was refused");
        assertThat(listed(folder)).isEqualTo(before);
        load(source(ends), address, LoadMode.REPLACE);
        mustHold(address, source(ends), "replaced");
    }

    @ParameterizedTest
    @MethodSource("ends")
    void recordsAreAddedOrThatIsRefused(Ends ends) {
        String address = ends.fresh().apply(folder);
        load(Samples.labels(3), address, LoadMode.CREATE);
        List<List<String>> more = Samples.labels(6).rows(Samples.label()).subList(3, 6);
        Throwable thrown = catchThrowable(() -> load(Samples.labels(more), address, LoadMode.APPEND));
        if (ends.takesMore()) {
            assertThat(thrown).isNull();
            mustHold(address, Samples.labels(6), "added to");
        } else {
            assertThat(thrown).isInstanceOf(UsageException.class).hasMessageContaining("replaced");
            mustHold(address, Samples.labels(3), "not added to");
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void aMergeTakesTheNewRecordAndKeepsTheOthers(Ends ends) {
        assumeTrue(ends.takesMore());
        String address = ends.fresh().apply(folder);
        List<List<String>> labels = Samples.labels(6).rows(Samples.label());
        load(Samples.labels(labels.subList(0, 4)), address, LoadMode.CREATE);
        List<String> changed = new ArrayList<>(labels.get(3));
        changed.set(1, "changed");
        load(Samples.labels(List.of(changed, labels.get(4))), address, LoadMode.MERGE);
        mustHold(
                address,
                Samples.labels(List.of(labels.get(0), labels.get(1), labels.get(2), changed, labels.get(4))),
                "merged");
        // and the same again changes nothing
        load(Samples.labels(List.of(changed, labels.get(4))), address, LoadMode.MERGE);
        mustHold(
                address,
                Samples.labels(List.of(labels.get(0), labels.get(1), labels.get(2), changed, labels.get(4))),
                "merged twice");
    }

    @ParameterizedTest
    @MethodSource("ends")
    void aRehearsalChangesNothing(Ends ends) throws Exception {
        String address = ends.fresh().apply(folder);
        load(Samples.labels(3), address, LoadMode.CREATE);
        List<Path> before = listed(folder);
        for (LoadMode mode : List.of(LoadMode.REPLACE, LoadMode.APPEND, LoadMode.MERGE)) {
            try (TargetPlace target = Places.openTarget(address)) {
                Load.from(Samples.labels()).mode(mode).rehearsal(true).into(target);
            } catch (UsageException e) {
                assertThat(ends.takesMore()).as(mode.toString()).isFalse();
            }
            mustHold(address, Samples.labels(3), "rehearsed " + mode);
        }
        assertThat(listed(folder)).isEqualTo(before);
    }

    @ParameterizedTest
    @MethodSource("ends")
    void severalLanesLoadTheSame(Ends ends) {
        for (int lanes : List.of(2, 3, 8)) {
            String address = ends.fresh().apply(folder);
            try (TargetPlace target = Places.openTarget(address)) {
                TransferResult result = Load.from(source(ends)).lanes(lanes).into(target);
                assertThat(result.rows())
                        .isEqualTo(source(ends).tables().stream()
                                .mapToLong(source(ends)::count)
                                .sum());
            }
            mustHold(address, source(ends), lanes + " lanes");
        }
    }

    /** Whatever call of the source fails, the target is as it was, and the next load goes as if nothing had been. */
    @ParameterizedTest
    @MethodSource("ends")
    void aSourceThatFailsLeavesTheTargetAsItWas(Ends ends) throws Exception {
        List<Supplier<RuntimeException>> failures = List.of(
                () -> new PlaceException("herb", "is burning", null),
                () -> new BadValueException(new Origin("label", "herb", 3, true), "note", "?", "is odd"),
                () -> new IllegalStateException("a fault in the code"));
        for (Supplier<RuntimeException> failure : failures) {
            String address = ends.fresh().apply(folder);
            load(Samples.labels(3), address, LoadMode.CREATE);
            List<Path> before = listed(folder);
            boolean struck = true;
            for (int fatal = 1; struck; fatal++) {
                Faulty faulty = new Faulty(fatal, failure);
                String there = address;
                Throwable thrown =
                        catchThrowable(() -> load(new FaultyPlace(source(ends), faulty), there, LoadMode.REPLACE));
                struck = faulty.isStruck();
                String when = "call " + fatal + " " + faulty.struck() + " with " + failure.get();
                if (thrown == null) {
                    // nothing more was to come, or the records were in already, which is told
                    mustHold(address, source(ends), when);
                    if (struck) {
                        assertThat(faulty.struck()).isEqualTo("RecordReader.close");
                    }
                    address = ends.fresh().apply(folder);
                    load(Samples.labels(3), address, LoadMode.CREATE);
                    before = listed(folder);
                } else {
                    assertThat(thrown).as(when).isInstanceOf(failure.get().getClass());
                    mustHold(address, Samples.labels(3), when);
                    assertThat(listed(folder)).as(when).isEqualTo(before);
                }
            }
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void aLoadThatIsStoppedWasNeverThere(Ends ends) throws Exception {
        String address = ends.fresh().apply(folder);
        load(Samples.labels(3), address, LoadMode.CREATE);
        List<Path> before = listed(folder);
        // keys are looked at before a load, by who asks for it
        for (ProgressListener.Stage stage : EnumSet.complementOf(EnumSet.of(ProgressListener.Stage.KEYS))) {
            StopSignal stop = new StopSignal();
            boolean[] reached = {false};
            ProgressListener listener = new ProgressListener() {
                @Override
                public void stage(ProgressListener.Stage now) {
                    if (now == stage) {
                        reached[0] = true;
                        stop.stop();
                    }
                }
            };
            Throwable thrown = catchThrowable(() -> {
                try (TargetPlace target = Places.openTarget(address)) {
                    Load.from(source(ends))
                            .mode(LoadMode.REPLACE)
                            .listener(listener)
                            .stopSignal(stop)
                            .into(target);
                }
            });
            if (reached[0]) {
                assertThat(thrown).as(stage.toString()).isInstanceOf(StoppedException.class);
                mustHold(address, Samples.labels(3), "stopped while " + stage);
                assertThat(listed(folder)).isEqualTo(before);
            } else {
                load(Samples.labels(3), address, LoadMode.REPLACE);
            }
        }
    }

    @ParameterizedTest
    @MethodSource("ends")
    void hostileTextsArriveOrAreRefusedByName(Ends ends) {
        for (List<String> row : Samples.hostileLabels()) {
            String address = ends.fresh().apply(folder);
            ListedPlace one = Samples.labels(List.of(row));
            try {
                load(one, address, LoadMode.CREATE);
            } catch (FerryException e) {
                assertThat(e.getMessage()).contains("note");
                continue;
            }
            mustHold(address, one, row.get(1));
        }
    }
}
