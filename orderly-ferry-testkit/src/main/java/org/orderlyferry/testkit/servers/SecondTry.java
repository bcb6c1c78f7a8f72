package org.orderlyferry.testkit.servers;

import java.time.Duration;
import java.util.concurrent.Callable;

/** On a busy machine a server may start late, or lose its port to another process: it gets time, and one more try. */
final class SecondTry {

    /** How long a server may take to start. */
    static final Duration PATIENCE = Duration.ofSeconds(120);

    private SecondTry() {}

    static <T> T of(String system, Callable<T> start) {
        try {
            return start.call();
        } catch (Exception first) {
            try {
                return start.call();
            } catch (Exception second) {
                second.addSuppressed(first);
                throw new IllegalStateException(system + " doesn't start, twice", second);
            }
        }
    }
}
