package org.orderlyferry.work;

import java.util.Optional;
import org.orderlyferry.place.Loading;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.Rejects;
import org.slf4j.LoggerFactory;

/** Moves records. What a task has come to is what its receipt in the target says. */
final class MovingErrands implements Errands {

    private final MovingErrand errand;
    private final BothEnds ends;
    private final Loading loading;
    private final ProgressListener told;
    private final StopSignal stop = new StopSignal();

    MovingErrands(MovingErrand errand, BothEnds ends, Loading loading, ProgressListener told) {
        this.errand = errand;
        this.ends = ends;
        this.loading = loading;
        this.told = told;
    }

    @Override
    public SliceResult run(SliceTask task) {
        Optional<SliceResult> before = in(task);
        if (before.isPresent()) {
            return before.get();
        }
        SliceWorker worker = new SliceWorker(
                errand.plan(),
                null,
                loading::writer,
                part -> Optional.empty(),
                Rejects.STOP,
                Pace.share(errand.plan().order().flow(), errand.lanes()),
                told,
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
            LoggerFactory.getLogger(MovingErrands.class).debug("{} is in by another process", task.part(), e);
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

    @Override
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
