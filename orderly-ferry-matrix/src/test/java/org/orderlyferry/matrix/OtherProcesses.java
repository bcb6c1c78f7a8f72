package org.orderlyferry.matrix;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutionException;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.progress.Crew;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.work.Engine;
import org.orderlyferry.work.Errand;
import org.orderlyferry.work.Errands;
import org.orderlyferry.work.RemoteEngine;
import org.orderlyferry.work.SliceResult;
import org.orderlyferry.work.SliceTask;

/**
 * An engine that does to tasks what a cluster does: hands them on as text, runs some twice at the same time or once more when they
 * are done, and loses what others have come to. All in this process, by connections of their own.
 */
final class OtherProcesses implements RemoteEngine {

    /** What went to others, as they got it. */
    final List<String> sent = new CopyOnWriteArrayList<>();

    private final int together;
    private final IntPredicate lost;
    private final int dyingBefore;

    /**
     * An engine.
     *
     * @param together how many run the same task at the same time
     * @param lost of which tasks the first result is lost, so that they are run again
     * @param dyingBefore the task before which the one who leads the work dies; -1 for none
     */
    OtherProcesses(int together, IntPredicate lost, int dyingBefore) {
        this.together = together;
        this.lost = lost;
        this.dyingBefore = dyingBefore;
    }

    @Override
    public String name() {
        return "other processes";
    }

    @Override
    public Engine engine(Errand errand, int lanes, Crew crew) {
        String text = errand.toJson();
        sent.add(text);
        return (tasks, events) ->
                crew.work(IntStream.range(0, lanes).boxed().toList(), tasks, (lane, task) -> run(text, task, events));
    }

    private void run(String errand, SliceTask task, Engine.Events events) {
        if (!events.isWanted(task)) {
            return;
        }
        if (task.number() == dyingBefore) {
            // a connection that is gone leaves what is done for a run that goes on
            throw new PlaceException("the one who leads", "is gone", false, true, null);
        }
        events.started(task);
        String json = task.toJson();
        sent.add(json);
        SliceResult result = atOnce(errand, json, events);
        if (lost.test(task.number())) {
            result = atOnce(errand, json, events);
        }
        events.done(task, result);
    }

    /** The result of whoever has one. */
    private SliceResult atOnce(String errand, String task, Engine.Events events) {
        List<CompletableFuture<String>> all = new ArrayList<>();
        for (int i = 0; i < together; i++) {
            all.add(CompletableFuture.supplyAsync(
                    () -> elsewhere(errand, task, events), work -> new Thread(work).start()));
        }
        List<String> results = new ArrayList<>();
        RuntimeException failure = null;
        for (CompletableFuture<String> one : all) {
            try {
                results.add(one.get());
            } catch (ExecutionException e) {
                failure = (RuntimeException) e.getCause();
            } catch (InterruptedException e) {
                throw new IllegalStateException(e);
            }
        }
        if (results.isEmpty()) {
            throw failure;
        }
        if (results.stream().distinct().count() > 1) {
            throw new IllegalStateException("the same task has come to " + results);
        }
        return SliceResult.parse(results.get(0));
    }

    private static String elsewhere(String errand, String text, Engine.Events events) {
        SliceTask task = SliceTask.parse(text);
        long[] moved = {0, 0};
        ProgressListener counting = new ProgressListener() {
            @Override
            public void moved(TableName table, long rows, long bytes) {
                moved[0] += rows;
                moved[1] += bytes;
                events.moved(task, moved[0], moved[1]);
            }
        };
        try (Errands errands = Errand.parse(errand).join(Secrets.unattended(), counting)) {
            return errands.run(task).toJson();
        } finally {
            // heard late
            events.moved(task, moved[0], moved[1]);
        }
    }

    @Override
    public void close() {
        // nothing is held
    }
}
