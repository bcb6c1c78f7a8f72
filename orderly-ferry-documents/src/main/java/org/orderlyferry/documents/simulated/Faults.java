package org.orderlyferry.documents.simulated;

import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import org.orderlyferry.documents.simulated.SimulatedStore.Request;

/** What goes wrong with a simulated store, as somebody wants it. Safe for use by several threads. */
public final class Faults {

    /** What becomes of a request. */
    public sealed interface Fault {

        /**
         * It isn't done, and answered so.
         *
         * @param status of HTTP, such as 429 or 503
         * @param retryAfter what stands in Retry-After, in seconds; negative for no such header
         */
        record Refused(int status, int retryAfter) implements Fault {}

        /** It is done, and its answer is lost. */
        record AnswerLost() implements Fault {}

        /** It isn't done, and nothing is answered. */
        record Dropped() implements Fault {}
    }

    /** Says what goes wrong with a request, if anything does. */
    @FunctionalInterface
    public interface Rule {
        Optional<Fault> of(Request request);
    }

    private final AtomicReference<Rule> rule = new AtomicReference<>(request -> Optional.empty());
    private volatile Duration latency = Duration.ZERO;
    private volatile int documentsPerSecond = Integer.MAX_VALUE;
    private volatile int tokenSeconds = 3_600;

    Faults() {}

    /** From now on, each request is asked of this rule. */
    public void rule(Rule value) {
        rule.set(value);
    }

    /** From now on, each answer comes so much later. */
    public void latency(Duration value) {
        latency = value;
    }

    /** From now on, no more documents than that are written in a second; what goes beyond is refused with 429. */
    public void documentsPerSecond(int value) {
        documentsPerSecond = value;
    }

    /** From now on, a token is good for so many seconds. */
    public void tokenSeconds(int value) {
        tokenSeconds = value;
    }

    Optional<Fault> of(Request request) {
        return rule.get().of(request);
    }

    Duration latency() {
        return latency;
    }

    int documentsPerSecond() {
        return documentsPerSecond;
    }

    int tokenSeconds() {
        return tokenSeconds;
    }
}
