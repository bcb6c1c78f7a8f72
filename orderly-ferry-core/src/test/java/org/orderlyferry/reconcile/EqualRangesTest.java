package org.orderlyferry.reconcile;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.BitSet;
import org.junit.jupiter.api.Test;

/** Ranges are asked for as a whole where that spares reading, and hardly where it never does. */
class EqualRangesTest {

    private static int asked(EqualRanges ranges, BitSet unlike, int count) {
        int asked = 0;
        for (int range = 0; range < count; range++) {
            if (ranges.areWorthAsking()) {
                asked++;
                ranges.were(!unlike.get(range));
            }
        }
        return asked;
    }

    @Test
    void allAreAskedWhereAllAreEqual() {
        assertThat(asked(new EqualRanges(), new BitSet(), 1000)).isEqualTo(1000);
    }

    @Test
    void nearlyAllAreWhereOnlyTheLastOnesAreUnlike() {
        BitSet last = new BitSet();
        last.set(990, 1000);
        assertThat(asked(new EqualRanges(), last, 1000)).isBetween(990, 995);
    }

    @Test
    void fewAreWhereAllAreUnlikeAndMoreAgainWhenTheyAreNot() {
        EqualRanges ranges = new EqualRanges();
        BitSet all = new BitSet();
        all.set(0, 1000);
        assertThat(asked(ranges, all, 1000)).isBetween(5, 30);
        assertThat(asked(ranges, new BitSet(), 1000)).isGreaterThan(930);
    }
}
