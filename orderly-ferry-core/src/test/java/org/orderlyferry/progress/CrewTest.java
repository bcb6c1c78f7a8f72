package org.orderlyferry.progress;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.problem.StoppedException;

/** Several hands share out tasks. */
class CrewTest {

    private static List<Integer> tasks(int count) {
        return IntStream.rangeClosed(1, count).boxed().toList();
    }

    private static List<String> hands(int count) {
        return IntStream.rangeClosed(1, count).mapToObj(i -> "hand " + i).toList();
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 7, 40})
    void eachTaskIsDoneOnce(int hands) {
        Queue<Integer> done = new ConcurrentLinkedQueue<>();
        new Crew(new StopSignal()).work(hands(hands), tasks(30), (hand, task) -> done.add(task));
        assertThat(done).containsExactlyInAnyOrderElementsOf(tasks(30));
    }

    @Test
    void noTasksAreDoneByNobody() {
        new Crew(new StopSignal()).work(hands(3), List.of(), (hand, task) -> {
            throw new AssertionError("there was none");
        });
    }

    @Test
    void aHandWorksOnOneTaskAtATime() {
        int[] busy = new int[3];
        new Crew(new StopSignal()).work(List.of(0, 1, 2), tasks(60), (hand, task) -> {
            assertThat(busy[hand]++).isZero();
            Thread.onSpinWait();
            busy[hand]--;
        });
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 4})
    void theFirstFailureIsToldAndNobodyBeginsAnythingMore(int hands) {
        AtomicInteger begun = new AtomicInteger();
        IllegalStateException failure = new IllegalStateException("the third");
        Crew crew = new Crew(new StopSignal());
        Throwable thrown = catchThrowable(() -> crew.work(hands(hands), tasks(1_000), (hand, task) -> {
            begun.incrementAndGet();
            if (task == 3) {
                throw failure;
            }
            if (task > 3) {
                untilAskedToEnd(crew);
            }
        }));
        assertThat(thrown).isSameAs(failure);
        // what the others had in hand, and nothing behind it
        assertThat(begun.get()).isBetween(3, 2 + hands);
    }

    @Test
    void whoAsksHearsThatAnotherHandHasFailed() throws Exception {
        Crew crew = new Crew(new StopSignal());
        CountDownLatch failed = new CountDownLatch(1);
        CountDownLatch begun = new CountDownLatch(1);
        Queue<Throwable> heard = new ConcurrentLinkedQueue<>();
        Throwable thrown = catchThrowable(() -> crew.work(hands(2), tasks(2), (hand, task) -> {
            if (task == 1) {
                await(begun);
                failed.countDown();
                throw new IllegalStateException("gone");
            }
            begun.countDown();
            await(failed);
            for (int i = 0; i < 1_000; i++) {
                Throwable asked = catchThrowable(crew::check);
                if (asked != null) {
                    heard.add(asked);
                    return;
                }
                pause();
            }
        }));
        assertThat(thrown).hasMessage("gone");
        assertThat(heard).hasSize(1).first().isInstanceOf(StoppedException.class);
    }

    @Test
    void aSecondFailureIsKeptWithTheFirst() {
        CountDownLatch both = new CountDownLatch(2);
        Throwable thrown = catchThrowable(() -> new Crew(new StopSignal()).work(hands(2), tasks(2), (hand, task) -> {
            both.countDown();
            await(both);
            throw new IllegalStateException("task " + task);
        }));
        assertThat(thrown).hasMessageStartingWith("task ");
        assertThat(thrown.getSuppressed()).hasSize(1).allMatch(s -> s.getMessage()
                .startsWith("task "));
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 3})
    void aStopSignalEndsTheWork(int hands) {
        StopSignal stop = new StopSignal();
        Crew crew = new Crew(stop);
        AtomicInteger begun = new AtomicInteger();
        assertThatThrownBy(() -> crew.work(hands(hands), tasks(100), (hand, task) -> {
                    begun.incrementAndGet();
                    if (task == 5) {
                        stop.stop();
                    }
                    if (task > 5) {
                        untilAskedToEnd(crew);
                    }
                }))
                .isInstanceOf(StoppedException.class);
        assertThat(begun.get()).isBetween(5, 4 + hands);
    }

    @Test
    void anErrorOfTheMachineIsToldToo() {
        assertThatThrownBy(() -> new Crew(new StopSignal()).work(hands(2), tasks(2), (hand, task) -> {
                    throw new OutOfMemoryError("no room");
                }))
                .isInstanceOf(OutOfMemoryError.class);
    }

    private static void untilAskedToEnd(Crew crew) {
        for (int i = 0; i < 10_000; i++) {
            if (catchThrowable(crew::check) != null) {
                return;
            }
            pause();
        }
        throw new AssertionError("nobody asked for an end");
    }

    private static void await(CountDownLatch latch) {
        try {
            latch.await();
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    private static void pause() {
        try {
            Thread.sleep(2);
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }
}
