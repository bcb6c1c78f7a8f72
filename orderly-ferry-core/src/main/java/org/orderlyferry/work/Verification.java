package org.orderlyferry.work;

import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import org.orderlyferry.place.Place;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.progress.SideThread;
import org.orderlyferry.progress.StopSignal;
import org.slf4j.LoggerFactory;

/**
 * Sees to it that a source is whole: before anything is read of it, or beside the work, which is then told by {@link
 * #check} and waits for it by {@link #mustBeOver} before anything that it made counts. A large set takes as long to be
 * looked through as its disk and one processor need for it, in which nothing else would move.
 */
final class Verification implements AutoCloseable {

    private final String source;
    private final Optional<SideThread> aside;
    private final AtomicReference<Throwable> failure = new AtomicReference<>();
    private volatile boolean closed;

    /** One that is over. */
    Verification() {
        this.source = "";
        this.aside = Optional.empty();
    }

    private Verification(Place source, StopSignal stop) {
        this.source = source.address();
        this.aside = Optional.of(SideThread.start("ferry-verification", () -> verify(source, stop)));
    }

    /**
     * Does it at once.
     *
     * @throws BrokenSetException if the source isn't whole
     */
    static Verification before(Place source, StopSignal stop) {
        source.verify(stop::check);
        return new Verification();
    }

    /**
     * Looks at once whether all files are there, and at what is in them by and by.
     *
     * @throws BrokenSetException if they aren't
     */
    static Verification beside(Place source, StopSignal stop) {
        try {
            source.verifyFiles();
        } catch (BrokenSetException e) {
            // which tells what is different, record by record
            source.verify(stop::check);
            throw e;
        }
        return new Verification(source, stop);
    }

    private void verify(Place source, StopSignal stop) {
        try {
            source.verify(() -> {
                stop.check();
                if (closed) {
                    throw new StoppedException();
                }
            });
        } catch (RuntimeException | Error e) {
            // a set of which anything kept us from seeing all isn't known to be whole
            failure.set(e);
        }
    }

    /**
     * To be asked often by the work: goes on, or doesn't.
     *
     * @throws BrokenSetException if the source isn't whole, as far as it was looked at
     */
    void check() {
        SideThread.rethrow(failure.get());
    }

    /**
     * Waits for its end.
     *
     * @throws BrokenSetException if the source isn't whole
     */
    void mustBeOver() {
        aside.ifPresent(SideThread::await);
        check();
    }

    /**
     * Why the work has failed: records of a file that was changed may be odd in any way, which nobody needs to hear of. Waits
     * for that if it failed by records.
     */
    FerryException reason(FerryException told) {
        if (isOfRecords(told)) {
            aside.ifPresent(SideThread::await);
        }
        if (failure.get() instanceof BrokenSetException broken && broken != told) {
            LoggerFactory.getLogger(Verification.class).debug("what the work came upon", told);
            return broken;
        }
        return told;
    }

    private boolean isOfRecords(FerryException told) {
        return told instanceof BrokenSetException
                || told instanceof MalformedFileException
                || told instanceof BadValueException
                || told instanceof BadRecordException
                || told instanceof PlaceException place && place.place().startsWith(source);
    }

    /** Ends it, seen all or not. */
    @Override
    public void close() {
        closed = true;
        aside.ifPresent(SideThread::await);
    }
}
