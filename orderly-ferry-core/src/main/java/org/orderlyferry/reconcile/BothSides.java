package org.orderlyferry.reconcile;

import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Function;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.tally.Tally;

/** Counts at the source and at the target at once; when one side fails, the other stops. */
final class BothSides {

    private final Function<Runnable, Tally> sourceWork;
    private final Function<Runnable, Tally> targetWork;
    private final AtomicReference<Throwable> failure = new AtomicReference<>();
    private Tally source;
    private Tally target;

    /** Each side's work is given what it has to ask, often, whether to go on. */
    BothSides(Function<Runnable, Tally> sourceWork, Function<Runnable, Tally> targetWork) {
        this.sourceWork = sourceWork;
        this.targetWork = targetWork;
    }

    void run() {
        Thread other = new Thread(() -> guarded(() -> target = targetWork.apply(this::check)), "ferry-target");
        other.start();
        guarded(() -> source = sourceWork.apply(this::check));
        try {
            other.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new StoppedException();
        }
        if (failure.get() instanceof RuntimeException e) {
            throw e;
        }
        if (failure.get() instanceof Error e) {
            throw e;
        }
    }

    private void guarded(Runnable work) {
        try {
            work.run();
        } catch (RuntimeException | Error e) {
            failure.compareAndSet(null, e);
        }
    }

    private void check() {
        if (failure.get() != null) {
            throw new StoppedException();
        }
    }

    Tally source() {
        return source;
    }

    Tally target() {
        return target;
    }
}
