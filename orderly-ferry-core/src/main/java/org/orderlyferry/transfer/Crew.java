package org.orderlyferry.transfer;

import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.BiConsumer;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.progress.StopSignal;

/** Several hands that share out tasks; when one fails, all stop, and its failure is told. */
final class Crew {

    private final StopSignal stop;
    private final AtomicReference<Throwable> failure = new AtomicReference<>();

    Crew(StopSignal stop) {
        this.stop = stop;
    }

    /** To be asked often by each hand: goes on, or doesn't. */
    void check() {
        stop.check();
        if (failure.get() != null) {
            throw new StoppedException();
        }
    }

    /** Does all tasks, each by one of the hands; with a single one, on this thread. */
    <H, T> void work(List<H> hands, List<T> tasks, BiConsumer<H, T> work) {
        if (hands.size() == 1) {
            for (T task : tasks) {
                check();
                work.accept(hands.get(0), task);
            }
            return;
        }
        Queue<T> left = new ConcurrentLinkedQueue<>(tasks);
        List<Thread> threads = hands.stream()
                .map(hand -> new Thread(() -> drain(hand, left, work), "ferry-lane"))
                .toList();
        threads.forEach(Thread::start);
        for (Thread thread : threads) {
            join(thread);
        }
        rethrow(failure.get());
    }

    private <H, T> void drain(H hand, Queue<T> left, BiConsumer<H, T> work) {
        try {
            for (T task = left.poll(); task != null; task = left.poll()) {
                check();
                work.accept(hand, task);
            }
        } catch (RuntimeException | Error e) {
            if (!failure.compareAndSet(null, e) && !(e instanceof StoppedException)) {
                failure.get().addSuppressed(e);
            }
        }
    }

    private static void join(Thread thread) {
        boolean interrupted = false;
        while (thread.isAlive()) {
            try {
                thread.join();
            } catch (InterruptedException e) {
                interrupted = true;
            }
        }
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    private static void rethrow(Throwable failure) {
        if (failure instanceof RuntimeException e) {
            throw e;
        }
        if (failure instanceof Error e) {
            throw e;
        }
    }
}
