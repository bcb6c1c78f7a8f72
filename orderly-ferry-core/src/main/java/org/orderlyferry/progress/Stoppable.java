package org.orderlyferry.progress;

import java.util.function.Supplier;
import org.apiguardian.api.API;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.StoppedException;

/** Work that a stop signal ends also where it waits for something elsewhere. */
@API(status = API.Status.INTERNAL)
public final class Stoppable {

    private Stoppable() {}

    /**
     * Does it. What fails because the work was told to stop is told as that.
     *
     * @param cancel ends what the work waits for
     */
    public static <T> T run(StopSignal stop, Runnable cancel, Supplier<T> work) {
        Runnable takeBack = stop.onStop(cancel);
        try {
            return work.get();
        } catch (StoppedException e) {
            throw e;
        } catch (FerryException e) {
            if (stop.isStopped()) {
                StoppedException stopped = new StoppedException();
                stopped.addSuppressed(e);
                throw stopped;
            }
            throw e;
        } finally {
            takeBack.run();
        }
    }
}
