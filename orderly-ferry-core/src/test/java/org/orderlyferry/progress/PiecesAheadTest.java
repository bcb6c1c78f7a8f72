package org.orderlyferry.progress;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Iterator;
import java.util.NoSuchElementException;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

/** What is asked for ahead comes in its order, and no more of it than is bounded. */
class PiecesAheadTest {

    private static final PiecesAhead.Bounds BOUNDS = new PiecesAhead.Bounds(64, 1_000);

    private final AtomicInteger given = new AtomicInteger();
    private final AtomicInteger closed = new AtomicInteger();

    /** So many numbers, and a failure behind them where there is one. */
    private PiecesAhead<Integer> ahead(int count, long size, RuntimeException failure) {
        Iterator<Integer> source = new Iterator<>() {
            @Override
            public boolean hasNext() {
                if (given.get() == count && failure != null) {
                    throw failure;
                }
                return given.get() < count;
            }

            @Override
            public Integer next() {
                return given.getAndIncrement();
            }
        };
        return new PiecesAhead<>("ahead", source, one -> size, BOUNDS, closed::incrementAndGet);
    }

    @Test
    void allComeInTheirOrder() {
        try (PiecesAhead<Integer> ahead = ahead(5_000, 10, null)) {
            for (int i = 0; i < 5_000; i++) {
                assertThat(ahead.next()).isEqualTo(i);
            }
            assertThat(ahead.hasNext()).isFalse();
            assertThatThrownBy(ahead::next).isInstanceOf(NoSuchElementException.class);
            assertThat(closed).hasValue(0);
        }
        assertThat(closed).hasValue(1);
    }

    @Test
    void aFailureIsToldBehindWhatCameBeforeIt() {
        IllegalStateException lost = new IllegalStateException("the server has gone");
        try (PiecesAhead<Integer> ahead = ahead(300, 10, lost)) {
            for (int i = 0; i < 300; i++) {
                assertThat(ahead.next()).isEqualTo(i);
            }
            assertThatThrownBy(ahead::hasNext).isSameAs(lost);
        }
    }

    @Test
    void besideALargeOneNothingIsAskedForAndNobodyHasToTakeThemAll() throws InterruptedException {
        try (PiecesAhead<Integer> ahead = ahead(1_000, 1_000, null)) {
            assertThat(ahead.next()).isZero();
            Thread.sleep(100);
            assertThat(given.get()).isEqualTo(1);
        }
        assertThat(given.get()).isLessThan(10);
    }
}
