package org.orderlyferry.cluster.spark;

import java.util.List;
import java.util.UUID;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.locks.LockSupport;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import org.apache.spark.api.java.JavaFutureAction;
import org.apache.spark.api.java.JavaSparkContext;
import org.apache.spark.broadcast.Broadcast;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.progress.Crew;
import org.orderlyferry.work.Engine;
import org.orderlyferry.work.Errand;
import org.orderlyferry.work.RemoteEngine;
import org.orderlyferry.work.SliceResult;
import org.orderlyferry.work.SliceTask;

/**
 * Has tasks run by the executors of a Spark application. Each task is a job of its own, and no more of them run at once than
 * there are lanes: that is how many touch the source and the target, however large the cluster is. What Spark runs twice counts
 * once, by its receipt; what it loses with an executor, it runs again.
 */
final class SparkEngine implements RemoteEngine {

    private static final long LOOK_MILLIS = 200;
    /** How long it may take until one hears why it has ended. */
    private static final long ENDING_MILLIS = 3_000;

    private final JavaSparkContext spark;
    private final SliceProgress progress;

    private SparkEngine(JavaSparkContext spark) {
        this.spark = spark;
        this.progress = new SliceProgress(spark);
    }

    /** Starts an application, as what submits this process says; by itself, one that runs everything in this process. */
    static SparkEngine start() {
        return new SparkEngine(SparkApplication.start());
    }

    @Override
    public String name() {
        return "Spark " + spark.version();
    }

    @Override
    public Engine engine(Errand errand, int lanes, Crew crew) {
        Broadcast<String> sent = unlessEnded(crew, () -> spark.broadcast(errand.toJson()));
        return (tasks, events) -> crew.work(
                IntStream.range(0, lanes).boxed().toList(), tasks, (lane, task) -> run(sent, task, crew, events));
    }

    private void run(Broadcast<String> errand, SliceTask task, Crew crew, Engine.Events events) {
        if (!events.isWanted(task)) {
            return;
        }
        events.started(task);
        SliceResult result;
        try {
            result = Outcome.parse(unlessEnded(crew, () -> outcome(errand, task, crew, events)))
                    .result();
        } catch (PlaceException e) {
            events.failed(task, e);
            return;
        }
        // not again, whatever comes
        events.done(task, result);
    }

    /** When a process is told to end, Spark ends itself at once; then it isn't Spark that has failed. */
    private <T> T unlessEnded(Crew crew, Supplier<T> work) {
        try {
            return work.get();
        } catch (StoppedException e) {
            throw e;
        } catch (RuntimeException e) {
            if (!spark.sc().isStopped()) {
                throw e;
            }
            for (long waited = 0; waited < ENDING_MILLIS; waited += LOOK_MILLIS) {
                crew.check();
                LockSupport.parkNanos(TimeUnit.MILLISECONDS.toNanos(LOOK_MILLIS));
            }
            throw new PlaceException(name(), "was stopped while it was at work", false, true, e);
        }
    }

    private void cancel(String group) {
        if (!spark.sc().isStopped()) {
            spark.cancelJobGroup(group);
        }
    }

    private String outcome(Broadcast<String> errand, SliceTask task, Crew crew, Engine.Events events) {
        String group = "ferry-" + UUID.randomUUID();
        TablePart part = task.part();
        progress.follow(group, (rows, bytes) -> events.moved(task, rows, bytes));
        spark.setJobGroup(group, "slice " + part.number() + " of " + part.of() + ", task " + part.task(), true);
        JavaFutureAction<List<String>> job = spark.parallelize(List.of(task.toJson()), 1)
                .map(new RunTask(errand, progress))
                .collectAsync();
        try {
            while (true) {
                try {
                    return job.get(LOOK_MILLIS, TimeUnit.MILLISECONDS).get(0);
                } catch (TimeoutException e) {
                    crew.check();
                }
            }
        } catch (StoppedException e) {
            cancel(group);
            throw e;
        } catch (InterruptedException e) {
            cancel(group);
            Thread.currentThread().interrupt();
            throw new StoppedException();
        } catch (ExecutionException e) {
            throw new PlaceException(
                    name(), "a slice of table " + part.table() + " can't be run: " + Outcome.line(e.getCause()), e);
        } finally {
            progress.leave(group);
        }
    }

    @Override
    public void close() {
        spark.close();
    }
}
