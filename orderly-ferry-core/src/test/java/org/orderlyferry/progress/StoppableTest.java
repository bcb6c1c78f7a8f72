package org.orderlyferry.progress;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;

/** Work that can be told to stop. */
class StoppableTest {

    private final StopSignal stop = new StopSignal();
    private final AtomicInteger cancelled = new AtomicInteger();

    @Test
    void whatIsDoneIsGiven() {
        assertThat(Stoppable.run(stop, cancelled::incrementAndGet, () -> 417)).isEqualTo(417);
        assertThat(cancelled).hasValue(0);
    }

    @Test
    void whatTheWorkWaitsForIsCancelledWhenItIsToldToStop() {
        Throwable thrown = catchThrowable(() -> Stoppable.run(stop, cancelled::incrementAndGet, () -> {
            stop.stop();
            throw new PlaceException("herb", "statement was cancelled", null);
        }));
        assertThat(thrown).isInstanceOf(StoppedException.class);
        // why it ended isn't lost
        assertThat(thrown.getSuppressed()).hasSize(1).allMatch(s -> s instanceof PlaceException);
        assertThat(cancelled).hasValue(1);
    }

    @Test
    void aFailureThatWasNotAskedForStaysOne() {
        assertThatThrownBy(() -> Stoppable.run(stop, cancelled::incrementAndGet, () -> {
                    throw new PlaceException("herb", "is burning", null);
                }))
                .isInstanceOf(PlaceException.class);
        assertThat(cancelled).hasValue(0);
    }

    @Test
    void nothingIsCancelledAfterTheWork() {
        Stoppable.run(stop, cancelled::incrementAndGet, () -> 1);
        stop.stop();
        assertThat(cancelled).hasValue(0);
    }

    @Test
    void whatBeginsAfterTheSignalIsCancelledAtOnce() {
        stop.stop();
        stop.onStop(cancelled::incrementAndGet);
        assertThat(cancelled).hasValue(1);
        assertThatThrownBy(stop::check).isInstanceOf(StoppedException.class);
        assertThat(stop.isStopped()).isTrue();
    }

    @Test
    void aSideThreadsFailureIsKeptForWhoWaits() {
        SideThread side = SideThread.start("side", () -> {
            throw new IllegalStateException("beside");
        });
        side.await();
        assertThatThrownBy(side::rethrow).hasMessage("beside");
        SideThread fine = SideThread.start("side", cancelled::incrementAndGet);
        fine.await();
        fine.rethrow();
        assertThat(cancelled).hasValue(1);
    }

    @Test
    void whoWaitsForASideThreadKeepsItsInterrupt() {
        SideThread side = SideThread.start("side", () -> Thread.currentThread().isInterrupted());
        Thread.currentThread().interrupt();
        side.await();
        assertThat(Thread.interrupted()).isTrue();
    }

    @Test
    void stoppingASideThreadInterruptsItsWait() {
        boolean[] interrupted = {false};
        SideThread side = SideThread.start("side", () -> {
            try {
                Thread.sleep(60_000);
            } catch (InterruptedException e) {
                interrupted[0] = true;
            }
        });
        side.stop();
        assertThat(interrupted[0]).isTrue();
    }
}
