package org.orderlyferry.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;

/** What is tried again, how often, and what isn't. */
class RetryTest {

    private final List<String> told = new ArrayList<>();
    private int attempts;

    private static PlaceException lost() {
        return new PlaceException("herb", "connection lost", false, true, null);
    }

    private void tell(PlaceException failure, long pause) {
        told.add(pause + " " + failure.getMessage());
    }

    @Test
    void whatWorksIsDoneOnce() {
        assertThat(Retry.of(() -> ++attempts, () -> {}, this::tell)).isEqualTo(1);
        assertThat(told).isEmpty();
    }

    @Test
    void aLostConnectionIsTriedAgainAndTold() {
        int result = Retry.of(
                () -> {
                    if (++attempts == 1) {
                        throw lost();
                    }
                    return attempts;
                },
                () -> {},
                this::tell);
        assertThat(result).isEqualTo(2);
        assertThat(told).containsExactly("500 herb: connection lost");
    }

    @Test
    void anyOtherFailureIsNotTriedAgain() {
        assertThatThrownBy(() -> Retry.of(
                        () -> {
                            attempts++;
                            throw new PlaceException("herb", "is full", null);
                        },
                        () -> {},
                        this::tell))
                .hasMessage("herb: is full");
        assertThatThrownBy(() -> Retry.of(
                        () -> {
                            attempts++;
                            throw new IllegalStateException("a fault in the code");
                        },
                        () -> {},
                        this::tell))
                .isInstanceOf(IllegalStateException.class);
        assertThat(attempts).isEqualTo(2);
        assertThat(told).isEmpty();
    }

    @Test
    void aStopEndsThePause() {
        assertThatThrownBy(() -> Retry.of(
                        () -> {
                            throw lost();
                        },
                        () -> {
                            throw new StoppedException();
                        },
                        this::tell))
                .isInstanceOf(StoppedException.class);
        assertThat(told).hasSize(1);
    }

    @Test
    @Timeout(60)
    void aLongRestIsCutShort() {
        int[] asked = {0};
        assertThatThrownBy(() -> Rest.of(3_600_000, () -> {
                    if (++asked[0] == 3) {
                        throw new StoppedException();
                    }
                }))
                .isInstanceOf(StoppedException.class);
    }

    @Test
    void anInterruptEndsAPauseAndIsKept() {
        Thread.currentThread().interrupt();
        assertThatThrownBy(() -> Rest.of(10_000, () -> {})).isInstanceOf(StoppedException.class);
        assertThat(Thread.interrupted()).isTrue();
    }

    @Test
    void aPaceOfNothingIsNoPace() {
        int[] asked = {0};
        new Pace(0, 0).keep(1_000_000, 1_000_000, () -> asked[0]++);
        assertThat(asked[0]).isZero();
    }

    @Test
    void theSlowerOfRecordsAndBytesHoldsBack() {
        long before = System.nanoTime();
        // a tenth of a second by the records, two tenths by the bytes
        Pace pace = new Pace(100, 1_000);
        pace.keep(10, 200, () -> {});
        assertThat(System.nanoTime() - before).isGreaterThan(150_000_000L);
    }
}
