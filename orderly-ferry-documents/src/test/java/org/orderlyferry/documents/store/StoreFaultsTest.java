package org.orderlyferry.documents.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.documents.simulated.Faults.Fault;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.doubles.Samples;
import org.orderlyferry.work.Load;

/** A store that is busy, loses answers, or goes away: all arrives once, or what was there stays. */
class StoreFaultsTest extends StoreCase {

    private static ListedPlace rows(int count) {
        List<List<String>> rows = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            rows.add(List.of("s" + i, "sheet " + i));
        }
        ListedPlace place = new ListedPlace();
        place.with(
                TableDefinition.named(TableName.of("sheet"))
                        .column("id", LogicalType.varchar(20))
                        .column("text", LogicalType.CLOB)
                        .primaryKey("id")
                        .build(),
                rows);
        return place;
    }

    @ParameterizedTest
    @ValueSource(strings = {"answer lost", "503"})
    void whateverRequestFailsOnceEachDocumentIsThereOnce(String what) {
        load(rows(1_300), LoadMode.CREATE);
        Map<String, List<String>> truth = state();
        boolean struck = true;
        for (int fatal = 1; struck; fatal++) {
            AtomicInteger number = new AtomicInteger();
            int at = fatal;
            boolean[] hit = {false};
            store.faults().rule(request -> {
                if (number.incrementAndGet() != at) {
                    return Optional.empty();
                }
                hit[0] = true;
                return Optional.of(
                        switch (what) {
                            case "answer lost" -> new Fault.AnswerLost();
                            case "dropped" -> new Fault.Dropped();
                            default -> new Fault.Refused(Integer.parseInt(what), 0);
                        });
            });
            load(rows(1_300), LoadMode.REPLACE);
            store.faults().rule(request -> Optional.empty());
            assertThat(state()).as(what + " at request " + fatal).isEqualTo(truth);
            struck = hit[0];
        }
    }

    /** As where the process is killed: nothing is put back by it, and the next one does. */
    @Test
    void whereverALoadEndsTheNextOneFindsWhatWasThereOrAllOfTheNew() {
        ListedPlace old = rows(700);
        boolean struck = true;
        for (int fatal = 1; struck; fatal++) {
            load(old, LoadMode.REPLACE);
            Map<String, List<String>> before = state();
            AtomicInteger number = new AtomicInteger();
            int at = fatal;
            boolean[] hit = {false};
            store.faults().rule(request -> {
                hit[0] |= number.incrementAndGet() >= at;
                return hit[0] ? Optional.of(new Fault.Refused(418, -1)) : Optional.empty();
            });
            Throwable thrown = catchThrowable(() -> load(rows(900), LoadMode.REPLACE));
            store.faults().rule(request -> Optional.empty());
            struck = hit[0];
            try (TargetPlace target = Places.openTarget(address)) {
                target.clear("");
            }
            Map<String, List<String>> after = state();
            String when = "from request " + fatal + " on, " + thrown;
            if (after.equals(before)) {
                assertThat(thrown).as(when).isInstanceOf(FerryException.class);
            } else {
                assertThat(after.get("sheet")).as(when).hasSize(900);
            }
            assertThat(client().get("collections").path("collections")).as(when).hasSize(1);
        }
    }

    @Test
    void aStoreThatIsBusyIsLeftAloneAsLongAsItAsks() {
        AtomicInteger refusals = new AtomicInteger();
        store.faults()
                .rule(request -> request.path().endsWith("/writes") && refusals.getAndIncrement() == 0
                        ? Optional.of(new Fault.Refused(429, 2))
                        : Optional.empty());
        long start = System.nanoTime();
        load(rows(10), LoadMode.CREATE);
        assertThat(Duration.ofNanos(System.nanoTime() - start)).isGreaterThan(Duration.ofMillis(1_900));
        assertThat(state().get("sheet")).hasSize(10);
    }

    @Test
    void aQuotaIsKeptByWaiting() {
        store.faults().documentsPerSecond(500);
        load(rows(1_200), LoadMode.CREATE);
        assertThat(state().get("sheet")).hasSize(1_200);
    }

    @Test
    void aStoreThatStaysBusyIsGivenUp() {
        store.faults()
                .rule(request ->
                        request.path().endsWith("/writes") ? Optional.of(new Fault.Refused(503, 0)) : Optional.empty());
        assertThatThrownBy(() -> load(rows(10), LoadMode.CREATE))
                .isInstanceOf(FerryException.class)
                .hasMessageContaining("503");
        store.faults().rule(request -> Optional.empty());
        assertThat(state()).isEmpty();
        assertThat(client().get("collections").path("collections")).isEmpty();
    }

    @Test
    void latencyAndOddFailuresInAllLanesChangeNothing() {
        Random random = new Random(417);
        store.faults().latency(Duration.ofMillis(2));
        store.faults().rule(request -> {
            synchronized (random) {
                int die = random.nextInt(6);
                return die == 0
                        ? Optional.of(new Fault.AnswerLost())
                        : die == 1 ? Optional.of(new Fault.Refused(503, 0)) : Optional.empty();
            }
        });
        try (TargetPlace target = Places.openTarget(address)) {
            Load.from(Samples.garden()).lanes(4).into(target);
        }
        store.faults().rule(request -> Optional.empty());
        assertThat(state().values().stream().mapToInt(List::size).sum())
                .isEqualTo(Samples.garden().tables().stream()
                        .mapToInt(t -> Samples.garden().rows(t).size())
                        .sum());
    }

    @Test
    void twoRecordsOfOneKeyAreToldAndNothingIsChanged() {
        ListedPlace twice = new ListedPlace();
        List<List<String>> rows = new ArrayList<>(rows(600).rows(TableName.of("sheet")));
        rows.add(List.of("s3", "another sheet 3"));
        twice.with(rows(1).define(TableName.of("sheet")), rows);
        assertThatThrownBy(() -> load(twice, LoadMode.CREATE))
                .isInstanceOf(FerryException.class)
                .hasMessageContaining("s3");
        rows.set(600, rows.get(3));
        ListedPlace same = new ListedPlace();
        same.with(rows(1).define(TableName.of("sheet")), rows);
        assertThatThrownBy(() -> load(same, LoadMode.CREATE))
                .isInstanceOf(FerryException.class)
                .hasMessageContaining("there already");
        assertThat(state()).isEmpty();
    }

    @Test
    void aNameThatALoadNeedsIsKeptFromIt() {
        write("ferry_in_0000abcd_1", "{\"id\":\"1\",\"fields\":{}}");
        assertThatThrownBy(() -> load(rows(3), LoadMode.CREATE))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("ferry_in_0000abcd_1");
        assertThat(client().get("collections").path("collections")).hasSize(1);
    }

    @Test
    void aNoteOfSomebodyElsesMakingTakesNothingAway() {
        write("sheet", "{\"id\":\"1\",\"fields\":{\"a\":1}}");
        client().send(
                        "PUT",
                        "{\"description\":{\"parts\":[{\"name\":\"other\",\"incoming\":\"sheet\",\"was\":\"sheet\"}]}}"
                                .getBytes(java.nio.charset.StandardCharsets.UTF_8),
                        "collections",
                        LoadNote.PLACING);
        try (TargetPlace target = Places.openTarget(address)) {
            target.clear("");
            assertThat(target.tables()).containsExactly(TableName.of("sheet"));
        }
    }

    @Test
    void aMergeThatIsCutAnywhereIsUndoneOrFinished() {
        load(rows(700), LoadMode.CREATE);
        List<List<String>> changes = new ArrayList<>();
        for (int i = 690; i < 710; i++) {
            changes.add(List.of("s" + i, "changed " + i));
        }
        ListedPlace more = new ListedPlace().with(rows(1).define(TableName.of("sheet")), changes);
        Map<String, List<String>> before = state();
        boolean struck = true;
        for (int fatal = 1; struck; fatal += 2) {
            AtomicInteger number = new AtomicInteger();
            int at = fatal;
            boolean[] hit = {false};
            store.faults().rule(request -> {
                hit[0] |= number.incrementAndGet() >= at;
                return hit[0] ? Optional.of(new Fault.Refused(418, -1)) : Optional.empty();
            });
            Throwable thrown = catchThrowable(() -> load(more, LoadMode.MERGE));
            store.faults().rule(request -> Optional.empty());
            struck = hit[0];
            try (TargetPlace target = Places.openTarget(address)) {
                target.clear("");
            }
            Map<String, List<String>> after = state();
            if (!after.equals(before)) {
                assertThat(after.get("sheet"))
                        .as("from " + fatal + ", " + thrown)
                        .hasSize(710)
                        .contains("[s695, changed 695]");
                load(rows(700), LoadMode.REPLACE);
            }
            assertThat(client().get("collections").path("collections")).hasSize(1);
        }
    }

    @Test
    void recordsAreTakenOutAndCounted() {
        load(rows(1_200), LoadMode.CREATE);
        TableDefinition key = rows(1).define(TableName.of("sheet")).withColumns(List.of("id"));
        ListedPlace keys = new ListedPlace()
                .with(key, List.of(List.of("s5"), List.of("s1100"), List.of("no such"), List.of("s5")));
        try (TargetPlace target = Places.openTarget(address)) {
            assertThat(target.delete(new org.orderlyferry.place.Removal(
                            key, () -> keys.read(org.orderlyferry.place.Slice.whole(key)))))
                    .isEqualTo(2);
        }
        assertThat(state().get("sheet")).hasSize(1_198).doesNotContain("[s5, sheet 5]");
        assertThat(client().get("collections").path("collections")).hasSize(1);
    }

    @Test
    void aMergeKeepsFieldsThatItHasNothingOfAndCounts() {
        write(
                "sheet",
                "{\"id\":\"s1\",\"fields\":{\"text\":\"old\",\"mass\":5,\"dry\":true}},{\"id\":\"s2\",\"fields\":{\"text\":\"sheet 2\"}}");
        ListedPlace more = new ListedPlace()
                .with(
                        TableDefinition.named(TableName.of("sheet"))
                                .column("id", LogicalType.varchar(20))
                                .column("text", LogicalType.CLOB)
                                .column("dry", LogicalType.BOOLEAN)
                                .primaryKey("id")
                                .build(),
                        List.of(
                                java.util.Arrays.asList("s1", "new", null),
                                java.util.Arrays.asList("s2", "sheet 2", null),
                                java.util.Arrays.asList("s3", "sheet 3", "true")));
        var merged = load(more, LoadMode.MERGE).tables().get(0).merged().orElseThrow();
        assertThat(merged).isEqualTo(new org.orderlyferry.place.Merged(1, 1, 1));
        var page = client().page("sheet", "").path("documents");
        assertThat(page.toString())
                .isEqualTo(
                        "[{\"id\":\"s1\",\"fields\":{\"text\":\"new\",\"mass\":5}},{\"id\":\"s2\",\"fields\":{\"text\":\"sheet 2\"}},"
                                + "{\"id\":\"s3\",\"fields\":{\"text\":\"sheet 3\",\"dry\":true}}]");
    }
}
