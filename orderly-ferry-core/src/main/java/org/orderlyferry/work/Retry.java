package org.orderlyferry.work;

import java.util.function.Supplier;
import org.orderlyferry.problem.PlaceException;

/** Tries a slice again from its start when its connection was lost: a few times, with growing pauses. */
final class Retry {

    private static final long[] PAUSES = {500, 2_000, 8_000};

    private Retry() {}

    /** Hears of each failure that is not the last. */
    @FunctionalInterface
    interface Told {
        void tryingAgain(PlaceException failure, long pauseMillis);
    }

    static <T> T of(Supplier<T> attempt, Runnable check, Told told) {
        for (int i = 0; ; i++) {
            try {
                return attempt.get();
            } catch (PlaceException e) {
                if (!e.isLost() || i == PAUSES.length) {
                    throw e;
                }
                told.tryingAgain(e, PAUSES[i]);
                Rest.of(PAUSES[i], check);
            }
        }
    }
}
