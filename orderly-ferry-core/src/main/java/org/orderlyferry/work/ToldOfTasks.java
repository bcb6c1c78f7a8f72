package org.orderlyferry.work;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.progress.ProgressListener;

/**
 * Tells of records that other processes move: as far as one hears of them, and of the rest when their slice is done. What moves
 * a second time isn't told again.
 */
final class ToldOfTasks implements Engine.Events {

    private final Engine.Events events;
    private final ProgressListener told;
    private final Map<Integer, Moved> moving = new ConcurrentHashMap<>();

    private record Moved(long rows, long bytes) {
        /** What is heard late of a slice that is done is known. */
        static final Moved ALL = new Moved(Long.MAX_VALUE, Long.MAX_VALUE);
    }

    ToldOfTasks(Engine.Events events, ProgressListener told) {
        this.events = events;
        this.told = told;
    }

    @Override
    public boolean isWanted(SliceTask task) {
        return events.isWanted(task);
    }

    @Override
    public void started(SliceTask task) {
        events.started(task);
    }

    @Override
    public void moved(SliceTask task, long rows, long bytes) {
        moving.compute(task.number(), (number, before) -> {
            Moved known = before == null ? new Moved(0, 0) : before;
            Moved now = new Moved(Math.max(rows, known.rows()), Math.max(bytes, known.bytes()));
            if (!now.equals(known)) {
                told.moved(task.part().table(), now.rows() - known.rows(), now.bytes() - known.bytes());
            }
            return now;
        });
    }

    @Override
    public void tryingAgain(SliceTask task, PlaceException failure, long pauseMillis) {
        events.tryingAgain(task, failure, pauseMillis);
    }

    @Override
    public void done(SliceTask task, SliceResult result) {
        moved(task, result.written(), result.bytes());
        moving.put(task.number(), Moved.ALL);
        events.done(task, result);
    }

    @Override
    public void failed(SliceTask task, PlaceException failure) {
        events.failed(task, failure);
    }
}
