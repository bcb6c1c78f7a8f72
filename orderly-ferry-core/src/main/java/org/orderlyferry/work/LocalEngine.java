package org.orderlyferry.work;

import java.util.List;
import org.orderlyferry.place.Place;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.progress.Crew;

/** Runs tasks in this process: several lanes, each with a way into the source of its own. */
final class LocalEngine implements Engine {

    private final Hands hands;
    private final Worker worker;
    private final Crew crew;

    /** Does a task, once. Safe for use by several threads. */
    @FunctionalInterface
    interface Worker {
        SliceResult run(SliceTask task, Place place);
    }

    LocalEngine(Hands hands, Worker worker, Crew crew) {
        this.hands = hands;
        this.worker = worker;
        this.crew = crew;
    }

    @Override
    public void run(List<SliceTask> tasks, Events events) {
        crew.work(hands.all(), tasks, (hand, task) -> run(hand, task, events));
    }

    private void run(Hand hand, SliceTask task, Events events) {
        if (!events.isWanted(task)) {
            return;
        }
        SliceResult result;
        try {
            events.started(task);
            result = Retry.of(() -> worker.run(task, hand.place()), crew::check, (failure, pause) -> {
                events.tryingAgain(task, failure, pause);
                // a lost target is opened anew by its writer
                hand.renewIfItsOwn(failure);
            });
        } catch (PlaceException e) {
            events.failed(task, e);
            return;
        }
        // not again, whatever comes
        events.done(task, result);
    }
}
