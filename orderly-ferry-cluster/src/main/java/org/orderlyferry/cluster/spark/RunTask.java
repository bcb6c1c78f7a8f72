package org.orderlyferry.cluster.spark;

import org.apache.spark.TaskContext;
import org.apache.spark.api.java.function.Function;
import org.apache.spark.broadcast.Broadcast;
import org.apache.spark.util.LongAccumulator;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.work.Errand;
import org.orderlyferry.work.Errands;
import org.orderlyferry.work.SliceTask;

/**
 * Runs a task in an executor. A connection that is lost is Spark's to try again, elsewhere if need be; whatever else fails would
 * fail again, and is told.
 */
final class RunTask implements Function<String, String> {

    private static final long serialVersionUID = 1L;

    private final Broadcast<String> errand;
    private final LongAccumulator rows;
    private final LongAccumulator bytes;

    RunTask(Broadcast<String> errand, SliceProgress progress) {
        this.errand = errand;
        this.rows = progress.rows();
        this.bytes = progress.bytes();
    }

    @Override
    public String call(String task) {
        // services are looked for by this thread's loader, which may be Spark's own
        Thread.currentThread().setContextClassLoader(RunTask.class.getClassLoader());
        try (Errands errands =
                        Errand.parse(errand.value()).join(Secrets.unattended(), SliceProgress.counting(rows, bytes));
                Watcher watcher = new Watcher(TaskContext.get(), errands)) {
            return Outcome.of(watcher.watched(() -> errands.run(SliceTask.parse(task))));
        } catch (PlaceException e) {
            if (e.isLost()) {
                throw e;
            }
            return Outcome.of(e);
        } catch (FerryException e) {
            return Outcome.of(e);
        }
    }
}
