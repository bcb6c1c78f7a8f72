package org.orderlyferry.crossing;

import org.jspecify.annotations.NullMarked;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.progress.StopSignal;

/**
 * What is told of every piece of work on a crossing, in the same words. Not safe for use by several
 * threads.
 *
 * @param <T> the work itself, which each of these gives back
 */
@NullMarked
public abstract sealed class CrossingWork<T extends CrossingWork<T>> permits Run, CatchUp, Undo, Watch {

    Secrets secrets = Secrets.unattended();
    RunListener listener = RunListener.SILENT;
    StopSignal stop = new StopSignal();

    CrossingWork() {}

    abstract T self();

    /** Where passwords come from; from the environment and from files unless told otherwise. */
    public T secrets(Secrets value) {
        secrets = value;
        return self();
    }

    /** Who hears of the steps and of the records on their way, one thread at a time; nobody unless told otherwise. */
    public T listener(RunListener value) {
        listener = value;
        return self();
    }

    /** What may end the work before its end, from another thread; it can go on later. */
    public T stopSignal(StopSignal value) {
        stop = value;
        return self();
    }
}
