package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.apiguardian.api.API;
import org.orderlyferry.exportset.SetTarget;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.Rejects;

/**
 * Work that is done piece by piece, in as many processes as suits: one plans and {@linkplain #begin begins} it, any number
 * {@linkplain #join join} it and run tasks, and one takes it up again and {@linkplain #finish finishes} it. Closing it
 * before that undoes it, unless it was {@linkplain #suspend suspended}. Not safe for use by several threads.
 *
 * <pre>{@code
 * WorkPlan plan = Underway.plan(order, Secrets.unattended());
 * try (Underway work = Underway.begin(plan, secrets)) { work.suspend(); }
 * // in other processes
 * try (Underway work = Underway.join(plan, secrets)) { work.run(plan.tasks().get(3)); }
 * // and at last
 * try (Underway work = Underway.begin(plan, secrets)) { work.finish(); }
 * }</pre>
 */
@API(status = API.Status.INTERNAL)
public final class Underway implements AutoCloseable {

    private final WorkPlan plan;
    private final BothEnds ends;
    private final Loading loading;
    private final Map<Integer, SliceResult> results = new TreeMap<>();
    private boolean closed;

    private Underway(WorkPlan plan, BothEnds ends, boolean joined) {
        this.plan = plan;
        this.ends = ends;
        TargetPlace target = ends.target();
        WorkOrder.Handling handling = plan.order().handling();
        if (handling.rehearsal()) {
            throw new UsageException("a load that is only tried isn't done in pieces");
        }
        this.loading = joined
                ? target.join(plan.definitions(), handling.modes(), plan.hash())
                : target.begin(plan.definitions(), handling.modes(), plan.hash());
    }

    /**
     * Plans an order; nothing is changed by it.
     *
     * @param secrets fills in what the order's addresses leave open
     * @throws org.orderlyferry.problem.FerryException if the source can't be read, or doesn't have what is asked for
     */
    public static WorkPlan plan(WorkOrder order, Secrets secrets) {
        try (Place source = source(order, secrets)) {
            source.verify();
            return Planner.plan(order, source, Cut.Standing.NEVER, () -> {});
        }
    }

    /**
     * Begins the work of a plan; or takes it up, if it was suspended or killed.
     *
     * @throws UsageException if the order is only to be tried, or if the source gives other records than it did when the plan was made, where it can tell
     */
    public static Underway begin(WorkPlan plan, Secrets secrets) {
        return opened(plan, secrets, false);
    }

    /**
     * Joins work that was begun and suspended, beside others that do so too, to run some of its tasks.
     *
     * @throws UsageException if no such work was begun
     */
    public static Underway join(WorkPlan plan, Secrets secrets) {
        return opened(plan, secrets, true);
    }

    private static Underway opened(WorkPlan plan, Secrets secrets, boolean joined) {
        return BothEnds.open(plan, () -> source(plan.order(), secrets), source -> target(plan, source, secrets))
                .with(ends -> new Underway(plan, ends, joined));
    }

    private static Place source(WorkOrder order, Secrets secrets) {
        WorkEnd end = order.source();
        return Places.open(PlaceAddress.of(end.address()), end.openOptions(secrets));
    }

    private static TargetPlace target(WorkPlan plan, Place source, Secrets secrets) {
        WorkEnd end = plan.order().target();
        return plan.order().kind() == WorkOrder.Kind.EXPORT
                ? new SetTarget(
                        WrittenPath.read(end.address()),
                        FileFormats.named(end.option(WorkEnd.FORMAT).orElse("csv")),
                        end.fileSettings(),
                        end.compression(),
                        source.system())
                : Places.openTarget(PlaceAddress.of(end.address()), end.openOptions(secrets));
    }

    /** The tasks that are still to be run, as far as the target and this process know. */
    public List<SliceTask> open() {
        takeReceipts();
        return plan.tasks().stream()
                .filter(t -> !results.containsKey(t.number()))
                .toList();
    }

    private void takeReceipts() {
        loading.receipts().forEach((task, receipt) -> results.putIfAbsent(task, result(task, receipt)));
    }

    private SliceResult result(int task, String receipt) {
        return WorkState.receipt(plan, task, receipt);
    }

    /**
     * Runs a task, once: what fails isn't tried again here.
     *
     * @return what became of it, which the target keeps as its receipt
     */
    public SliceResult run(SliceTask task) {
        StopSignal stop = new StopSignal();
        WorkOrder.Flow flow = plan.order().flow();
        SliceResult result = new SliceWorker(
                        plan,
                        null,
                        loading::writer,
                        table -> Optional.empty(),
                        Rejects.STOP,
                        new Pace(flow.rowsPerSecond(), flow.bytesPerSecond()),
                        ProgressListener.NONE,
                        stop::check)
                .run(task, ends.source());
        results.put(task.number(), result);
        return result;
    }

    /** Leaves the work as it is, for others to go on with. */
    public void suspend() {
        loading.suspend();
    }

    /**
     * Finishes the work: its tables take their places.
     *
     * @throws UsageException if tasks are still open; nothing was changed then
     */
    public TransferResult finish() {
        List<SliceTask> left = open();
        if (!left.isEmpty()) {
            throw new UsageException(left.size() + " of " + plan.tasks().size()
                    + " slices are not in yet, the first is " + left.get(0).part());
        }
        WorkState state = new WorkState(
                plan,
                loading,
                plan.order().handling().acceptChanges() ? table -> Optional.empty() : ends.source()::keptTally,
                ends.source().address(),
                ProgressListener.NONE);
        Collection<SliceResult> done = results.values();
        done.forEach(r -> state.resumed(plan.tasks().get(r.part().task()), r));
        List<LeftBehind> leftBehind = new ArrayList<>(ends.source().leftBehind(plan.names()));
        List<Finding> findings = new ArrayList<>(ends.source().notices(plan.names()));
        Ending.settle(loading, state, AtTheEnd.NOTHING, ends.source().address());
        return Ending.finish(loading, state, leftBehind, findings);
    }

    @Override
    public void close() {
        if (closed) {
            return;
        }
        closed = true;
        try (ends) {
            loading.close();
        }
    }
}
