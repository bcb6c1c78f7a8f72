package org.orderlyferry.progress;

import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.BiConsumer;
import org.apiguardian.api.API;
import org.orderlyferry.problem.StoppedException;

/** Several hands that share out tasks; when one fails, all stop, and its failure is told. Safe for use by its hands. */
@API(status = API.Status.INTERNAL)
public final class Crew {

    private final Runnable goOn;
    private final AtomicReference<Throwable> failure = new AtomicReference<>();

    /** A crew that stops when told. */
    public Crew(StopSignal stop) {
        this(stop::check);
    }

    /**
     * A crew that stops when something is amiss.
     *
     * @param goOn asked often, by each hand: what it throws ends the work
     */
    public Crew(Runnable goOn) {
        this.goOn = goOn;
    }

    /**
     * To be asked often by each hand: goes on, or doesn't.
     *
     * @throws StoppedException if the work has been asked to stop, or another hand has failed
     */
    public void check() {
        goOn.run();
        if (failure.get() != null) {
            throw new StoppedException();
        }
    }

    /** Does all tasks, each by one of the hands; with a single one, on this thread. */
    public <H, T> void work(List<H> hands, List<T> tasks, BiConsumer<H, T> work) {
        if (hands.size() == 1) {
            for (T task : tasks) {
                check();
                work.accept(hands.get(0), task);
            }
            return;
        }
        Queue<T> left = new ConcurrentLinkedQueue<>(tasks);
        List<SideThread> threads = hands.stream()
                .map(hand -> SideThread.start("ferry-lane", () -> drain(hand, left, work)))
                .toList();
        threads.forEach(SideThread::await);
        SideThread.rethrow(failure.get());
    }

    private <H, T> void drain(H hand, Queue<T> left, BiConsumer<H, T> work) {
        try {
            for (T task = left.poll(); task != null; task = left.poll()) {
                check();
                work.accept(hand, task);
            }
        } catch (RuntimeException | Error e) {
            Throwable first = failure.compareAndExchange(null, e);
            // what all hands fail with is told once
            boolean same = first != null && String.valueOf(first.getMessage()).equals(e.getMessage());
            if (first != null && !same && !(e instanceof StoppedException)) {
                first.addSuppressed(e);
            }
        }
    }
}
