package org.orderlyferry.progress;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** What is filled ahead comes to its end, however many things go round. */
class AheadEndTest {

    /** Enough for whoever fills to have filled all that it can. */
    private static void letItFill() throws InterruptedException {
        Thread.sleep(20);
    }

    @Test
    @Timeout(value = 20, unit = TimeUnit.SECONDS, threadMode = Timeout.ThreadMode.SEPARATE_THREAD)
    void theEndComesAlsoWhereMoreGoRoundThanThereWere() throws Exception {
        int[] left = {40};
        int taken = 0;
        try (Ahead<int[]> ahead = new Ahead<>(
                "ferry-test", List.of(new int[1], new int[1], new int[1]), one -> left[0]-- > 0, one -> false)) {
            for (int[] one = ahead.take(); one != null; one = ahead.take()) {
                taken++;
                ahead.giveBack(one);
                ahead.giveBack(new int[1]);
                letItFill();
            }
        }
        assertThat(taken).isEqualTo(40);
    }

    @Test
    @Timeout(value = 20, unit = TimeUnit.SECONDS, threadMode = Timeout.ThreadMode.SEPARATE_THREAD)
    void aFailureComesBehindAllThatWasFilledAndClosingAlwaysEnds() throws Exception {
        for (int round = 0; round < 20; round++) {
            int[] left = {6};
            try (Ahead<int[]> ahead = new Ahead<>(
                    "ferry-test",
                    List.of(new int[1], new int[1], new int[1]),
                    one -> {
                        if (left[0]-- == 0) {
                            throw new IllegalArgumentException("no more");
                        }
                        return true;
                    },
                    one -> false)) {
                for (int i = 0; i < 6 && round % 2 == 0; i++) {
                    int[] one = ahead.take();
                    assertThat(one).isNotNull();
                    ahead.giveBack(one);
                    ahead.giveBack(new int[1]);
                }
                if (round % 2 == 0) {
                    assertThatThrownBy(ahead::take).hasMessage("no more");
                }
            }
        }
    }
}
