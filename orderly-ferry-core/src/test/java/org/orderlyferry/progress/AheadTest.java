package org.orderlyferry.progress;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.orderlyferry.problem.StoppedException;

@Timeout(20)
class AheadTest {

    /** Something that is filled. */
    private static final class Box {
        private int content;
    }

    private static List<Box> boxes(int count) {
        return Stream.generate(Box::new).limit(count).toList();
    }

    @Test
    void allComeInTheirOrderAndNoMoreGoRoundThanThereAre() {
        AtomicInteger filled = new AtomicInteger();
        AtomicInteger taken = new AtomicInteger();
        AtomicInteger most = new AtomicInteger();
        try (Ahead<Box> ahead = new Ahead<>(
                "test",
                boxes(3),
                box -> {
                    most.accumulateAndGet(filled.get() - taken.get(), Math::max);
                    box.content = filled.getAndIncrement();
                    return box.content < 1_000;
                },
                box -> false)) {
            List<Integer> found = new ArrayList<>();
            for (Box box = ahead.take(); box != null; box = ahead.take()) {
                found.add(box.content);
                taken.incrementAndGet();
                ahead.giveBack(box);
            }
            assertThat(found).hasSize(1_000).isSorted().doesNotHaveDuplicates();
            assertThat(ahead.take()).isNull();
        }
        assertThat(most.get()).isLessThanOrEqualTo(3);
    }

    @Test
    void aFailureIsToldBehindWhatWasFilledBeforeIt() {
        AtomicInteger filled = new AtomicInteger();
        try (Ahead<Box> ahead = new Ahead<>(
                "test",
                boxes(2),
                box -> {
                    if (filled.get() == 5) {
                        throw new IllegalArgumentException("broken");
                    }
                    box.content = filled.getAndIncrement();
                    return true;
                },
                box -> false)) {
            for (int i = 0; i < 5; i++) {
                Box box = ahead.take();
                assertThat(box.content).isEqualTo(i);
                ahead.giveBack(box);
            }
            assertThatThrownBy(ahead::take)
                    .isInstanceOf(IllegalArgumentException.class)
                    .hasMessage("broken");
            assertThat(ahead.take()).isNull();
        }
    }

    @Test
    void nothingIsFilledAheadOfALargeOne() throws Exception {
        AtomicInteger filled = new AtomicInteger();
        try (Ahead<Box> ahead = new Ahead<>(
                "test",
                boxes(3),
                box -> {
                    box.content = filled.getAndIncrement();
                    return box.content < 9;
                },
                box -> box.content % 3 == 0)) {
            for (int i = 0; i < 9; i++) {
                Box box = ahead.take();
                if (i % 3 == 0) {
                    Thread.sleep(20);
                    assertThat(filled.get()).isEqualTo(i + 1);
                }
                ahead.giveBack(box);
            }
            assertThat(ahead.take()).isNull();
        }
    }

    @Test
    void itIsClosedWhateverItIsDoing() {
        for (int takes = 0; takes < 5; takes++) {
            for (boolean large : new boolean[] {false, true}) {
                AtomicInteger filled = new AtomicInteger();
                Ahead<Box> ahead = new Ahead<>(
                        "test",
                        boxes(2),
                        box -> {
                            filled.incrementAndGet();
                            return true;
                        },
                        box -> large);
                for (int i = 0; i < takes; i++) {
                    ahead.giveBack(ahead.take());
                }
                if (takes % 2 == 1) {
                    ahead.take();
                }
                ahead.close();
                int then = filled.get();
                assertThat(filled.get()).isEqualTo(then);
            }
        }
    }

    @Test
    void whoIsInterruptedWhileWaitingStops() throws Exception {
        CountDownLatch never = new CountDownLatch(1);
        Ahead<Box> ahead = new Ahead<>(
                "test",
                boxes(1),
                box -> {
                    try {
                        return never.await(10, java.util.concurrent.TimeUnit.SECONDS);
                    } catch (InterruptedException e) {
                        throw new IllegalStateException(e);
                    }
                },
                box -> false);
        Thread.currentThread().interrupt();
        assertThatThrownBy(ahead::take).isInstanceOf(StoppedException.class);
        assertThat(Thread.interrupted()).isTrue();
        never.countDown();
        ahead.close();
    }
}
