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
                .hasMessageContaining("601 records");
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
}
