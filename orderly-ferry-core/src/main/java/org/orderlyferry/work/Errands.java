package org.orderlyferry.work;

import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.Rejects;
import org.slf4j.LoggerFactory;

/**
 * Runs tasks in another process than the one that leads the work: on connections of its own, beside others that do so too, and
 * also where another process runs the very same task at the same time, of which one counts. What a task has come to is what its
 * receipt in the target says. {@link #stop} may be called by any thread, all else by one.
 */
@API(status = API.Status.INTERNAL)
public final class Errands implements AutoCloseable {

    private final Errand errand;
    private final BothEnds ends;
    private final Loading loading;
    private final StopSignal stop = new StopSignal();

    private Errands(Errand errand, BothEnds ends, Loading loading) {
        this.errand = errand;
        this.ends = ends;
        this.loading = loading;
    }

    /**
     * Opens both ends, and joins the work.
     *
     * @throws UsageException if no such work is under way, or the source isn't as it was
     */
    public static Errands join(Errand errand, Secrets secrets) {
        WorkSite site = errand.opened();
        WorkPlan plan = errand.plan();
        return BothEnds.open(
                        plan,
                        () -> site.source(secrets, Optional.of(errand.moment()).filter(m -> !m.isEmpty())),
                        source -> site.target(secrets, errand.system()))
                .with(ends -> new Errands(
                        errand,
                        ends,
                        ends.target()
                                .join(
                                        plan.definitions(),
                                        plan.order().handling().mode(),
                                        errand.name())));
    }

    /**
     * Runs a task, unless it is in already.
     *
     * @throws FerryException if it fails; nothing of it counts then
     */
    public SliceResult run(SliceTask task) {
        Optional<SliceResult> before = in(task);
        if (before.isPresent()) {
            return before.get();
        }
        WorkOrder.Flow flow = errand.plan().order().flow();
        SliceWorker worker = new SliceWorker(
                errand.plan(),
                null,
                loading::writer,
                part -> Optional.empty(),
                Rejects.STOP,
                new Pace(share(flow.rowsPerSecond()), share(flow.bytesPerSecond())),
                ProgressListener.NONE,
                stop::check);
        try {
            worker.run(task, ends.source());
        } catch (StoppedException e) {
            throw e;
        } catch (FerryException e) {
            // another one may have been faster
            Optional<SliceResult> other = in(task);
            if (other.isEmpty()) {
                throw e;
            }
            LoggerFactory.getLogger(Errands.class).debug("{} is in by another process", task.part(), e);
            return other.get();
        }
        return in(task).orElseThrow(() -> new UsageException(
                "the target has no receipt of " + task.part() + ", which was written: the work was ended"));
    }

    private Optional<SliceResult> in(SliceTask task) {
        Optional<SliceResult> result = loading.receipt(task.number()).map(SliceResult::parse);
        result.filter(r -> !r.part().equals(task.part())).ifPresent(r -> {
            throw new UsageException("the target has a receipt that no work of this plan has written: " + r.part());
        });
        return result;
    }

    private long share(long all) {
        return all == 0 ? 0 : Math.max(1, all / errand.lanes());
    }

    /** Ends the task that runs, with the statements that it waits for. */
    public void stop() {
        stop.stop();
        ends.source().cancel();
        ends.target().cancel();
    }

    @Override
    public void close() {
        try (ends) {
            loading.close();
        }
    }
}
