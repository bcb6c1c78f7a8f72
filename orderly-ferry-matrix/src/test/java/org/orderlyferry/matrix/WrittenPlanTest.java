package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.cli.FerryProcess;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Underway;
import org.orderlyferry.work.WorkEnd;
import org.orderlyferry.work.WorkOrder;
import org.orderlyferry.work.WorkPlan;

/** A plan that is written down, and whose pieces are done by processes of their own, comes to the same as one command. */
class WrittenPlanTest {

    @TempDir
    private static Path folder;

    private static Path old;
    private static Path set;

    @BeforeAll
    static void makeASetOfSeveralSlices() throws Exception {
        old = folder.resolve("old.mv.db");
        new Herbarium().specimens(300).readings(3_000).commonDates(true).create(old);
        set = folder.resolve("set");
        assertThat(Ferry.run("export", old, set, "--slice-rows", "700").code()).isZero();
    }

    private static int piece(Path plan, String what) throws Exception {
        Path log = folder.resolve("piece.log");
        Process process =
                FerryProcess.start(PieceOfWork.class, "128m", ProcessBuilder.Redirect.to(log.toFile()), plan, what);
        assertThat(process.waitFor(2, TimeUnit.MINUTES)).isTrue();
        if (process.exitValue() != 0) {
            System.err.println(Files.readString(log));
        }
        return process.exitValue();
    }

    /** Plans, and lets each piece be done by a process of its own, in any order. */
    private static void inPieces(WorkOrder order, int most) throws Exception {
        WorkPlan plan = Underway.plan(order, Secrets.unattended());
        assertThat(WorkPlan.parse(plan.toJson())).isEqualTo(plan);
        assertThat(WorkPlan.parse(plan.toJson()).hash()).isEqualTo(plan.hash());
        Path written = Files.writeString(folder.resolve("plan.json"), plan.toJson());
        assertThat(piece(written, "begin")).isZero();
        List<String> pieces = new ArrayList<>();
        plan.tasks().forEach(t -> pieces.add(Integer.toString(t.number())));
        Collections.shuffle(pieces, new Random(417));
        for (String piece : pieces.subList(0, Math.min(most, pieces.size()))) {
            assertThat(piece(written, piece)).isZero();
        }
        if (pieces.size() > most) {
            // the others by this process, which takes up what is there
            try (Underway work = Underway.begin(plan, Secrets.unattended())) {
                assertThat(work.open()).hasSize(pieces.size() - most);
                assertThatThrownBy(work::finish)
                        .isInstanceOf(UsageException.class)
                        .hasMessageContaining("are not in yet");
                work.open().forEach(work::run);
                work.suspend();
            }
        }
        assertThat(piece(written, "finish")).isZero();
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2", "PostgreSQL", "MariaDB"})
    void aLoadInPiecesIsThatOfOneCommand(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        inPieces(WorkOrder.of(WorkOrder.Kind.LOAD, WorkEnd.of(set.toString()), WorkEnd.of(url)), 2);
        Ferry proof = Ferry.run("reconcile", old, url);
        assertThat(proof.code()).as(proof.out()).isZero();
        Ferry look = Ferry.run("look", url);
        assertThat(look.out()).doesNotContain("orderly_ferry_", "unfinished load");
    }

    @Test
    void anExportInPiecesIsThatOfOneCommand() throws Exception {
        Path pieces = folder.resolve("pieces");
        inPieces(
                WorkOrder.of(
                        WorkOrder.Kind.EXPORT,
                        WorkEnd.of(set.toString()),
                        WorkEnd.of(pieces.toString()).with(WorkEnd.FORMAT, "jsonl")),
                3);
        assertThat(Ferry.run("reconcile", old, pieces).code()).isZero();
        assertThat(Ferry.run("look", pieces).code()).isZero();
        try (var left = Files.list(folder)) {
            assertThat(left.filter(p -> p.getFileName().toString().startsWith(".pieces")))
                    .isEmpty();
        }
        try (var all = Files.walk(pieces)) {
            assertThat(all.filter(p -> p.toString().contains("receipts"))).isEmpty();
        }
    }

    @Test
    void aLoadThatIsOnlyTriedIsNotDoneInPieces() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        WorkOrder order = WorkOrder.of(WorkOrder.Kind.LOAD, WorkEnd.of(set.toString()), WorkEnd.of(url))
                .with(new WorkOrder.Handling(LoadModes.all(LoadMode.CREATE), true, false));
        WorkPlan plan = Underway.plan(order, Secrets.unattended());
        assertThatThrownBy(() -> Underway.begin(plan, Secrets.unattended()))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("only tried");
    }

    @Test
    void aPlanOfASourceThatHasChangedIsRefused() throws Exception {
        Path changing = folder.resolve("changing");
        assertThat(Ferry.run("convert", set, changing).code()).isZero();
        String target = folder.resolve("changed.mv.db").toString();
        WorkPlan plan = Underway.plan(
                WorkOrder.of(WorkOrder.Kind.LOAD, WorkEnd.of(changing.toString()), WorkEnd.of(target)),
                Secrets.unattended());
        assertThat(Ferry.run("convert", set, changing, "--overwrite", "specimen")
                        .code())
                .isZero();
        assertThatThrownBy(() -> Underway.begin(plan, Secrets.unattended()))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("has changed since the plan was made");
    }

    @Test
    void whatPartOfALoadIsThereIsOnlyTakenUpByTheSamePlan() throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        WorkOrder order = WorkOrder.of(WorkOrder.Kind.LOAD, WorkEnd.of(set.toString()), WorkEnd.of(url));
        WorkPlan plan = Underway.plan(order, Secrets.unattended());
        try (Underway work = Underway.begin(plan, Secrets.unattended())) {
            work.run(plan.tasks().get(0));
            work.suspend();
        }
        WorkPlan other = Underway.plan(
                order.with(new WorkOrder.Handling(LoadModes.all(LoadMode.REPLACE), false, false)),
                Secrets.unattended());
        assertThat(other.hash()).isNotEqualTo(plan.hash());
        WorkPlan faster = Underway.plan(order.with(new WorkOrder.Flow(2, 0, 0)), Secrets.unattended());
        assertThat(faster.hash()).isEqualTo(plan.hash());
        assertThatThrownBy(() -> Underway.join(other, Secrets.unattended()))
                .hasMessageContaining("was begun by this plan");
        assertThat(Ferry.run("look", url).out()).contains("unfinished load");
        try (Underway work = Underway.begin(other, Secrets.unattended())) {
            assertThat(work.open()).hasSameSizeAs(other.tasks());
        }
        // closed without an end: all is as it was
        assertThat(Ferry.run("look", url).out()).doesNotContain("unfinished load");
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2", "PostgreSQL", "MariaDB"})
    void receiptsThatDisagreeWithWhatIsThereAreNotBelieved(String system) throws Exception {
        TestSystem tested = TestSystem.of(system);
        String url = tested.fresh(folder);
        WorkPlan plan = Underway.plan(
                WorkOrder.of(WorkOrder.Kind.LOAD, WorkEnd.of(set.toString()), WorkEnd.of(url)), Secrets.unattended());
        try (Underway work = Underway.begin(plan, Secrets.unattended())) {
            work.run(plan.tasks().get(0));
            work.run(plan.tasks().get(1));
            work.suspend();
        }
        String receipts = tested.quote("orderly_ferry_receipts");
        // as if some of a part's records had been committed before the rest
        Databases.run(url, "UPDATE " + receipts + " SET records = records - 1 WHERE task_number = 0");
        try (Underway work = Underway.begin(plan, Secrets.unattended())) {
            assertThat(work.open()).contains(plan.tasks().get(0));
            work.open().forEach(work::run);
            work.suspend();
        }
        Databases.run(url, "UPDATE " + receipts + " SET receipt = '{}' WHERE task_number = 1");
        assertThatThrownBy(() -> {
                    try (Underway work = Underway.begin(plan, Secrets.unattended())) {
                        work.finish();
                    }
                })
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("not a slice's result");
        // that was undone, and nothing is left in the way
        assertThat(Ferry.run("load", set, url).code()).isZero();
        assertThat(Ferry.run("reconcile", old, url).code()).isZero();
    }

    @ParameterizedTest
    @ValueSource(strings = {"SQLite", "PostgreSQL", "MariaDB"})
    void aQueryIsCutByAColumnAndGivesEachRecordOnce(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        Path csv = folder.resolve("cutting.csv");
        StringBuilder text = new StringBuilder("n,bed\n");
        for (int i = 0; i < 900; i++) {
            text.append(i).append(',').append(i % 9 == 0 ? "" : i % 9).append('\n');
        }
        Files.writeString(csv, text);
        assertThat(Ferry.run("load", csv, url).code()).isZero();
        String query = "q=SELECT n, bed FROM cutting WHERE n < 800 -- all but the last";
        Path cut = folder.resolve("cut-" + system);
        Ferry export = Ferry.run("export", url, cut, "--query", query, "--cut-by", "q=bed", "--slice-rows", "150");
        assertThat(export.code()).as(export.err()).isZero();
        assertThat(export.out()).doesNotContain("about 0 rows");
        try (var files = Files.list(cut.resolve("data"))) {
            assertThat(files.count()).isGreaterThan(3);
        }
        Path whole = folder.resolve("whole-" + system);
        assertThat(Ferry.run("export", url, whole, "--query", query).code()).isZero();
        Ferry proof = Ferry.run("reconcile", whole, cut);
        assertThat(proof.code()).as(proof.out()).isZero();
        assertThat(proof.out()).contains("800");
    }

    @Test
    void sameCommandGoesOnWhereAKilledOneStopped() throws Exception {
        String url = TestSystem.MARIADB.fresh(folder);
        WorkPlan plan = Underway.plan(
                new WorkOrder(
                        WorkOrder.Kind.LOAD,
                        WorkEnd.of(set.toString()),
                        WorkEnd.of(url),
                        new WorkOrder.Selection(List.of(), List.of(), Cut.DEFAULT_ROWS, Cut.DEFAULT_BYTES, Map.of()),
                        WorkOrder.Handling.DEFAULT,
                        WorkOrder.Flow.DEFAULT),
                Secrets.unattended());
        try (Underway work = Underway.begin(plan, Secrets.unattended())) {
            work.run(plan.tasks().get(0));
            work.run(plan.tasks().get(2));
            work.suspend();
        }
        Ferry again = Ferry.run("load", set, url, "--lanes", "2");
        assertThat(again.code()).as(again.err()).isZero();
        assertThat(again.out())
                .contains("went on from there, with 2 of " + plan.tasks().size() + " slices already in");
        assertThat(Ferry.run("reconcile", old, url).code()).isZero();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "null",
                "{}",
                "[]",
                "{\"order\": null}",
                "{\"order\": {\"kind\": \"ROB\"}}",
                "{\"tasks\": [{}]}"
            })
    void whatIsNoPlanIsRefused(String text) {
        assertThatThrownBy(() -> WorkPlan.parse(text))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("not a plan");
    }
}
